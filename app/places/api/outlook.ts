import { sightOf } from "../../../server/accounts/plans.ts";
import { becameOf, seeEdition } from "../../../server/readers/seen.ts";
import { answerProgram } from "./api.server.ts";
import type { Route } from "./+types/outlook.ts";

/** An edition as the token's account is shown it, with the root of its leaves, and what became of its calls. */
export function loader({ params, request }: Route.LoaderArgs) {
  return answerProgram(request, "api", async (account) => {
    const sight = await sightOf(account);
    const { edition, content, isWhole } = await seeEdition(params.number, sight);
    const became = await becameOf(edition.number, content, sight);
    return Response.json(
      { root: edition.sha256, whole: isWhole, content, became },
      { headers: { "Cache-Control": "private, no-cache" } },
    );
  });
}
