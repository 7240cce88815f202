import { SaveScenarioDto } from "#contracts/scenario";
import { scenarioChanged } from "../../../../server/alerts/alerts.ts";
import { saveScenario } from "../../../../server/desk/scenarios.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/scenarios.ts";

export function action({ params, request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const asked = await readBody(request, SaveScenarioDto);
    const saved = await saveScenario(params.market, asked, personIn(context).id);
    await scenarioChanged(params.market, saved.scenario.id, asked.step === "remove");
    return Response.json(saved);
  });
}
