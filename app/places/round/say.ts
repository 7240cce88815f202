import { RoundStepsDto } from "#contracts/round";
import { sayInRound } from "../../../server/round/rounds.ts";
import { answer, personIn, readBody } from "../../access.server.ts";
import type { Route } from "./+types/say.ts";

/** Looks and verdicts as they are made. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { list, steps } = await readBody(request, RoundStepsDto);
    return Response.json(await sayInRound(list, steps, personIn(context).id));
  });
}
