import { sightOf } from "../../../server/accounts/plans.ts";
import { provenSeen, seeEdition } from "../../../server/readers/seen.ts";
import { Failure } from "../../../server/failure.ts";
import { PROOFS_FORMAT } from "../../../server/record/proofs.ts";
import { leavesOf } from "../../../server/record/leaves.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/content.ts";

/**
 * What somebody may see of an edition, so that anybody can check it: the frozen text byte for byte where that is all of
 * it, and otherwise its leaves, each with what proves that it is of the edition with that root.
 */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const sight = await sightOf(personIn(context));
    const { edition, isWhole } = await seeEdition(params.number, sight);
    const { number, canonical, sha256 } = edition;
    const headers = {
      "Content-Type": "application/json; charset=utf-8",
      // An edition in leaves is known by the root of their tree, one of before by its text.
      [leavesOf(canonical) ? "X-Root" : "X-Sha-256"]: sha256,
      "Cache-Control": "private, no-cache",
    };
    if (isWhole) return new Response(canonical, { headers });
    const leaves = provenSeen(canonical, sight);
    if (!leaves)
      throw new Failure("whole", "This outlook is from before parts of one could be proven.", {
        status: 403,
        remedy: "Its page shows what your plan shows of it.",
      });
    return new Response(JSON.stringify({ format: PROOFS_FORMAT, number, root: sha256, leaves }), { headers });
  });
}
