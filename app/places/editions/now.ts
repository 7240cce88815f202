import { findDraft } from "../../../server/publishing/drafts.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/now.ts";

/** A draft as it is stored now; nothing where whoever asks has that version already (`?has=`). */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { version, title, kind, blocks, published } = await findDraft(params.draft);
    if (new URL(request.url).searchParams.get("has") === String(version) && published === null)
      return new Response(null, { status: 204 });
    return Response.json({ version, title, kind, blocks, published });
  });
}
