import { marketsOf } from "#core/edition/blocks";
import { LAYOUT_NAMES } from "#core/edition/layouts";
import { canSee } from "#core/edition/parts";
import { findPlan, WHOLE } from "../../../server/accounts/plans.ts";
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
    const section = marketsOf(draft.blocks)[Number(/^(\d{1,2})(\.png)?$/.exec(params.section)?.[1] ?? NaN)];
    const asked = new URL(request.url).searchParams;
    const layout = LAYOUT_NAMES.find((name) => name === (asked.get("layout") ?? "wide"));
    if (!section || !layout) throw notFound("section");
    const plan = asked.get("plan");
    const { parts } = plan === null ? WHOLE : await findPlan(plan);
    if (!canSee("pictures", parts)) throw notFound("picture");
    const composed = await composeSection(
      section.market,
      section.rung,
      section.scenarios,
      draft.accountId,
      section.counts,
    );
    return new Response(new Uint8Array(await previewPng(composed, { layout, parts })), {
      headers: { "Content-Type": "image/png", "Cache-Control": "no-store" },
    });
  });
}
