import { eveningOf } from "../../../server/round/evening.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/market.ts";

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () =>
    Response.json(await eveningOf(params.market, personIn(context).id), { headers: { "Cache-Control": "no-store" } }),
  );
}
