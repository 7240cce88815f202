import { findVoice, storeVoice } from "../../../server/publishing/voices.ts";
import { countStep } from "../../../server/http/rates.ts";
import { answer, personIn } from "../../access.server.ts";
import { soundOf } from "../reader/sound.server.ts";
import type { Route } from "./+types/voice.ts";

/** Takes in what was said at a step of a draft: the recording is the body. Answers with its digest. */
export function action({ params, request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    await countStep("recording", personIn(context).id);
    const bytes = Buffer.from(await request.arrayBuffer());
    return Response.json({ sha256: await storeVoice(params.draft, bytes) });
  });
}

/** `?of=` its digest: to be heard again. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const of = new URL(request.url).searchParams.get("of") ?? "";
    return soundOf(await findVoice(params.draft, of));
  });
}
