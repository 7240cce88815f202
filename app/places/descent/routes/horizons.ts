import { HorizonsDto } from "#contracts/horizons";
import { saveHorizons } from "../../../../server/desk/horizons.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/horizons.ts";

/** Keeps which rungs speak for the long, medium and short view. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { long, medium, short } = await readBody(request, HorizonsDto);
    return Response.json(await saveHorizons({ long, medium, short }, personIn(context).id));
  });
}
