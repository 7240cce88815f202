import { DraftDto } from "#contracts/draft";
import { saveDraft } from "../../../server/publishing/drafts.ts";
import { answer, readBody } from "../../access.server.ts";
import type { Route } from "./+types/save.ts";

export function action({ params, request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { version } = await saveDraft(params.draft, await readBody(request, DraftDto));
    return Response.json({ version });
  });
}
