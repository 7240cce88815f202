import { DAY } from "#core/time/dates";
import { eventsAsTable } from "../../../server/events/events.ts";
import { readClock } from "../../../server/clock.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/table.ts";

/** The events from a month back on as CSV. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { now } = await readClock();
    return new Response(await eventsAsTable(now - 31 * DAY), {
      headers: {
        "Content-Type": "text/csv; charset=utf-8",
        "Content-Disposition": 'attachment; filename="events.csv"',
        "Cache-Control": "no-store",
      },
    });
  });
}
