import { FindingParamsDto } from "#contracts/finding";
import { saveFindingParams } from "../../../server/desk/findingParams.ts";
import { answer, personIn, readBody } from "../../access.server.ts";
import type { Route } from "./+types/finding.ts";

/** Keeps what the machine looks for on a set of rungs. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { set, params } = await readBody(request, FindingParamsDto);
    return Response.json(await saveFindingParams(personIn(context).id, set, params));
  });
}
