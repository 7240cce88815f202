import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { sightOf } from "../../../server/accounts/plans.ts";
import { expectedBy, type Expected } from "../../../server/readers/calendar.ts";
import { answer, personIn } from "../../access.server.ts";
import { momentText } from "../../parts/times.ts";
import { useTimes, zoneName } from "../../parts/useTimes.ts";
import type { Route } from "./+types/readerCalendar.ts";

export const meta: Route.MetaFunction = () => [{ title: "Calendar - Even Compass" }];

const DAYS = 14;

/** Those who are shown the same are sent the same page. */
export const handle = { isForMany: true };

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({ expected: await expectedBy(await sightOf(personIn(context)), DAYS) }));
}

/** What is expected, day by day: releases, and calls that lapse. */
export default function ReaderCalendar({ loaderData: { expected } }: Route.ComponentProps) {
  const { zone } = useTimes();
  const dayOf = ({ at, allDay }: Expected) => momentText(at, allDay ? "utc" : zone).replace(/, \d\d:\d\d$/, "");
  const days = [...new Set(expected.map(dayOf))];
  return (
    <Box component="main" id="content" sx={{ maxWidth: 760, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="h1">Calendar</Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        The next {DAYS} days of market time, in {zoneName(zone)}. Ticks say how much a release may move.
      </Typography>
      {expected.length === 0 && <Typography>Nothing is expected.</Typography>}
      {days.map((day) => (
        <Box component="section" key={day} aria-label={day} sx={{ mb: 2 }}>
          <Typography variant="h2" sx={{ borderBottom: "1.5px solid", borderColor: "text.primary" }}>
            {day}
          </Typography>
          <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
            {expected
              .filter((one) => dayOf(one) === day)
              .map(({ id, at, allDay, title, impact, edition }) => (
                <Box
                  component="li"
                  key={id}
                  sx={{
                    ...{ display: "grid", gridTemplateColumns: "72px 1fr 40px", py: 0.5 },
                    ...{ borderBottom: 1, borderColor: "divider" },
                  }}
                >
                  <span>{allDay ? "all day" : momentText(at, zone).slice(-5)}</span>
                  <span>
                    {edition === undefined ? (
                      title
                    ) : (
                      <MuiLink component={Link} to={`/outlooks/${edition}`}>
                        {title}
                      </MuiLink>
                    )}
                  </span>
                  <Box
                    component="span"
                    aria-label={impact > 0 ? `impact ${impact} of 3` : undefined}
                    sx={{ textAlign: "right" }}
                  >
                    {"|".repeat(impact)}
                  </Box>
                </Box>
              ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
