import { DAY } from "#core/time/dates";
import { eventsAsCalendar } from "../../../server/events/events.ts";
import { readClock } from "../../../server/clock.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/calendar.ts";

/** The events from a month back on as an iCalendar stream. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { now } = await readClock();
    return new Response(await eventsAsCalendar(now - 31 * DAY), {
      headers: {
        "Content-Type": "text/calendar; charset=utf-8",
        "Content-Disposition": 'attachment; filename="events.ics"',
        "Cache-Control": "no-store",
      },
    });
  });
}
