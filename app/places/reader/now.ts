import { sightOf } from "../../../server/accounts/plans.ts";
import { readOnce } from "../../../server/database/readOnce.ts";
import { editionNow } from "../../../server/readers/now.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/now.ts";

/** What moves of an outlook while it is read: asked again and again by its page. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const sight = await sightOf(personIn(context));
    return Response.json(await readOnce(["now", params.number, sight], () => editionNow(params.number, sight)));
  });
}
