import { SaveScenarioDto } from "#contracts/scenario";
import { saveScenario } from "../../../../server/desk/scenarios.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/scenarios.ts";

export function action({ params, request, context }: Route.ActionArgs) {
  return answer(context, async () =>
    Response.json(await saveScenario(params.market, await readBody(request, SaveScenarioDto), personIn(context).id)),
  );
}
