import { AlertDto } from "#contracts/alert";
import { setAlert } from "../../../server/alerts/alerts.ts";
import { answer, personIn, readBody } from "../../access.server.ts";
import type { Route } from "./+types/set.ts";

export function action({ params, request, context }: Route.ActionArgs) {
  return answer(context, async () =>
    Response.json({ id: await setAlert(params.market, await readBody(request, AlertDto), personIn(context).id) }),
  );
}
