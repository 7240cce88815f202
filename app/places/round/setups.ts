import { SetupDto } from "#contracts/setup";
import { noteSetup, setupsOf } from "../../../server/round/setups.ts";
import { answer, personIn, readBody } from "../../access.server.ts";
import type { Route } from "./+types/setups.ts";

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () =>
    Response.json(await setupsOf(personIn(context).id), { headers: { "Cache-Control": "no-store" } }),
  );
}

/** A setup that was passed or missed. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () =>
    Response.json({ id: await noteSetup(await readBody(request, SetupDto), personIn(context).id) }),
  );
}
