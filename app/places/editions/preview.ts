import { LAYOUT_NAMES } from "#core/edition/layouts";
import { canSee } from "#core/edition/parts";
import { findPlan, WHOLE } from "../../../server/accounts/plans.ts";
import { composeChart } from "../../../server/publishing/freeze.ts";
import { findDraft } from "../../../server/publishing/drafts.ts";
import { previewPng } from "../../../server/publishing/editions.ts";
import { notFound } from "../../../server/failure.ts";
import { answerInTurn } from "../../access.server.ts";
import type { Route } from "./+types/preview.ts";

/** The picture a section would be published with, from what the desk holds now. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () => {
    const draft = await findDraft(params.draft);
    const number = Number(/^(\d{1,2})(\.png)?$/.exec(params.section)?.[1] ?? -1);
    const asked = new URL(request.url).searchParams;
    const layout = LAYOUT_NAMES.find((name) => name === (asked.get("layout") ?? "wide"));
    if (!layout) throw notFound("picture");
    const plan = asked.get("plan");
    const { parts } = plan === null ? WHOLE : await findPlan(plan);
    if (!canSee("pictures", parts)) throw notFound("picture");
    const composed = await composeChart(draft, number);
    if (!composed) throw notFound("picture");
    return new Response(new Uint8Array(await previewPng(composed, { layout, parts })), {
      headers: { "Content-Type": "image/png", "Cache-Control": "no-store" },
    });
  });
}
