import { marketsOf } from "#core/edition/blocks";
import { composeSection } from "../../../server/publishing/section.ts";
import { findDraft } from "../../../server/publishing/drafts.ts";
import { previewPng } from "../../../server/publishing/editions.ts";
import { notFound } from "../../../server/failure.ts";
import { answerInTurn } from "../../access.server.ts";
import type { Route } from "./+types/preview.ts";

/** The picture a section would be published with, from what the desk holds now. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () => {
    const draft = await findDraft(params.draft);
    const section = marketsOf(draft.blocks)[Number(params.section)];
    if (!section) throw notFound("section");
    const composed = await composeSection(
      section.market,
      section.rung,
      section.scenarios,
      draft.accountId,
      section.counts,
    );
    return new Response(new Uint8Array(await previewPng(composed)), {
      headers: { "Content-Type": "image/png", "Cache-Control": "no-store" },
    });
  });
}
