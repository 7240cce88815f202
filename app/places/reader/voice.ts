import { sightOf } from "../../../server/accounts/plans.ts";
import { seeVoice } from "../../../server/readers/seenVoices.ts";
import { answer, personIn } from "../../access.server.ts";
import { soundOf } from "./sound.server.ts";
import type { Route } from "./+types/voice.ts";

/** What is said at a step of an outlook, by its digest. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () =>
    soundOf(await seeVoice(params.number, params.voice, await sightOf(personIn(context)))),
  );
}
