import { sightOf, WHOLE } from "../../../server/accounts/plans.ts";
import { Failure } from "../../../server/failure.ts";
import { recordFile } from "../../../server/record/file.ts";
import { answerInTurn, personIn } from "../../access.server.ts";
import type { Route } from "./+types/whole.ts";

/** The whole record, to be kept and checked elsewhere: `./compass verify FILE`. */
export function loader({ request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () => {
    const { parts, kinds, wait } = await sightOf(personIn(context));
    if (parts.length < WHOLE.parts.length || kinds.length < WHOLE.kinds.length || wait > 0)
      throw new Failure("plan", "The whole record holds more than your plan shows.", {
        status: 403,
        remedy:
          "Its chain is open to anybody (/record/chain.json), and beside each outlook stand the leaves you may see, " +
          "with their proofs.",
      });
    return Response.json(await recordFile(), {
      headers: { "Content-Disposition": 'attachment; filename="record.json"', "Cache-Control": "no-store" },
    });
  });
}
