import { SeenDto } from "#contracts/alert";
import { firingsOf, seenFirings } from "../../../server/alerts/alerts.ts";
import { answer, personIn, readBody } from "../../access.server.ts";
import type { Route } from "./+types/news.ts";

const NEWEST = 12;

/** Firings that were not seen yet, the newest first. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () =>
    Response.json(
      (await firingsOf(personIn(context).id, NEWEST)).filter(({ seen }) => !seen),
      { headers: { "Cache-Control": "no-store" } },
    ),
  );
}

/** They were seen, up to a number. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { upTo } = await readBody(request, SeenDto);
    await seenFirings(upTo, personIn(context).id);
    return Response.json({});
  });
}
