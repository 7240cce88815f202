import { StepsDto } from "#contracts/mark";
import { applySteps } from "../../../../server/desk/marks.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/steps.ts";

export function action({ params, request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { steps, at } = await readBody(request, StepsDto);
    const outcome = await applySteps(params.market, steps, personIn(context).id, at);
    return Response.json(outcome, { status: outcome.conflicts.length > 0 ? 409 : 200 });
  });
}
