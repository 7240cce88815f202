import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { Form, Link } from "react-router";
import { atOneInstant, groupText } from "#core/events/event";
import { countText } from "#core/marks/wording";
import { offsetAt } from "#core/time/zone";
import type { ClosedDay, WeekEvent } from "../../../server/events/week.ts";
import { Ticks } from "../round/SidePanel.tsx";

interface Props {
  title: string;
  events: readonly WeekEvent[];
  closed: ClosedDay | undefined;
  zone: string;
  now: number;
  onChange(event: WeekEvent): void;
}

/** One day of the week ahead: who stands still, what lasts all day, and hour by hour what comes. */
export function EventDay({ title, events, closed, zone, now, onChange }: Props) {
  const clock = (at: number) => new Date(at + offsetAt(at, zone)).toISOString().slice(11, 16);
  const hourOf = (event: WeekEvent) => (event.allDay ? "all day" : `${clock(event.at).slice(0, 2)} h`);
  const hours = [...new Set(events.map(hourOf))];
  return (
    <Box component="section" aria-label={title} sx={{ mb: 2, breakInside: "avoid" }}>
      <Typography variant="h3" component="h2" sx={{ borderBottom: "1.5px solid", borderColor: "text.primary" }}>
        {title}
      </Typography>
      {closed && <Standing closed={closed} />}
      {events.length === 0 && !closed && (
        <Typography variant="body2" color="text.secondary">
          Nothing is known of.
        </Typography>
      )}
      {hours.map((hour) => (
        <Box
          key={hour}
          role="group"
          aria-label={hour}
          sx={{ display: "grid", gridTemplateColumns: "64px minmax(0, 1fr)", columnGap: 1.5 }}
        >
          <Typography component="span" sx={{ fontWeight: 600, fontSize: "0.9rem", pt: 0.5 }}>
            {hour}
          </Typography>
          <Box>
            {atOneInstant(events.filter((event) => hourOf(event) === hour)).map((group) => (
              <Together key={group[0].id} group={group} time={group[0].allDay ? "" : clock(group[0].at)} now={now}>
                {group.map((event) => (
                  <OneEvent
                    key={event.id}
                    event={event}
                    time={event.allDay || group.length > 1 ? "" : clock(event.at)}
                    past={!event.allDay && event.at < now}
                    onChange={() => onChange(event)}
                  />
                ))}
              </Together>
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

/** Events of one instant and kind on one line, which opens. */
function Together({
  group,
  time,
  now,
  children,
}: {
  group: readonly WeekEvent[];
  time: string;
  now: number;
  children: ReactNode;
}) {
  if (group.length === 1) return children;
  const [{ at, allDay }] = group;
  const touched = new Set(group.flatMap((event) => event.touched)).size;
  const calls = new Set(
    group.flatMap(({ open }) => open.map(({ edition, market, title }) => `${edition} ${market} ${title}`)),
  ).size;
  return (
    <Box component="details">
      <Box
        component="summary"
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "48px 30px minmax(0, 1fr)", md: "48px 30px minmax(0, 1.4fr) minmax(0, 1fr) auto" },
          columnGap: 1.5,
          borderBottom: 1,
          borderColor: "divider",
          py: 0.25,
          minHeight: 24,
          fontSize: "0.925rem",
          cursor: "pointer",
          color: !allDay && at < now ? "text.secondary" : "text.primary",
        }}
      >
        <span>{time}</span>
        <Ticks impact={Math.max(...group.map(({ impact }) => impact))} />
        <span>{groupText(group)}</span>
        <Box sx={{ color: "text.secondary", fontSize: "0.85rem", gridColumn: { xs: "3", md: "auto" } }}>
          {touched === 0 ? "touches no market" : `touches ${countText(touched, "market")}`}
          {calls > 0 && (
            <strong>
              {", "}
              {countText(calls, "open call")}
            </strong>
          )}
        </Box>
        <Box component="span" data-no-print sx={{ fontSize: "0.85rem" }}>
          Each of them
        </Box>
      </Box>
      <Box sx={{ pl: 2 }}>{children}</Box>
    </Box>
  );
}

function Standing({ closed: { closed, early } }: { closed: ClosedDay }) {
  const some = (names: readonly string[]) =>
    names.length <= 6 ? names.join(", ") : `${names.slice(0, 5).join(", ")} and ${names.length - 5} more`;
  return (
    <>
      {closed.length > 0 && (
        <Typography variant="body2" sx={{ py: 0.25 }} title={closed.join(", ")}>
          <strong>{countText(closed.length, "market stands", "markets stand")} still:</strong> {some(closed)}.
        </Typography>
      )}
      {early.length > 0 && (
        <Typography variant="body2" sx={{ py: 0.25 }}>
          <strong>Half day:</strong> {some(early.map(({ market, at }) => `${market} (until ${at} there)`))}.
        </Typography>
      )}
    </>
  );
}

function OneEvent({
  event,
  time,
  past,
  onChange,
}: {
  event: WeekEvent;
  time: string;
  past: boolean;
  onChange(): void;
}) {
  const { title, kind, impact, touched, open } = event;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "48px 30px minmax(0, 1fr)", md: "48px 30px minmax(0, 1.4fr) minmax(0, 1fr) auto" },
        columnGap: 1.5,
        alignItems: "start",
        borderBottom: 1,
        borderColor: "divider",
        py: 0.25,
        fontSize: "0.925rem",
        color: past ? "text.secondary" : "text.primary",
      }}
    >
      <span>{time}</span>
      <Ticks impact={impact} />
      <Box>
        {title}
        {kind === "release" ? "" : `, ${kind}`}
        <Figures event={event} />
        {open.map(({ title: scenario, edition, market }) => (
          <Typography key={`${edition} ${scenario}`} variant="body2">
            Open on {market}:{" "}
            <MuiLink component={Link} to={`/outlooks/${edition}`}>
              {scenario}
            </MuiLink>
          </Typography>
        ))}
      </Box>
      <Box sx={{ color: "text.secondary", fontSize: "0.85rem", gridColumn: { xs: "3", md: "auto" } }}>
        <span title={touched.join(", ")}>{touchedText(event)}</span>
      </Box>
      <Form method="post" style={{ display: "flex" }} data-no-print>
        <input type="hidden" name="id" value={event.id} />
        <Button variant="text" onClick={onChange} aria-label={`Change ${title}`}>
          Change
        </Button>
        <Button variant="text" type="submit" name="step" value="remove" aria-label={`Remove ${title}`}>
          Remove
        </Button>
      </Form>
    </Box>
  );
}

/** Markets an event touches: those that react most first, with how far they went; "Verin / Olta 0.24 ATR (n 13)". */
function touchedText({ touched, reactions }: WeekEvent): string {
  if (touched.length === 0) return "touches no market";
  const told = reactions.map(({ market, median, n }) => `${market} ${median.toFixed(2)} ATR (n ${n})`);
  const others = touched.filter((name) => !reactions.some(({ market }) => market === name));
  const room = Math.max(1, 3 - told.length);
  const more = others.length > room ? ` and ${others.length - room} more` : "";
  return [...told, ...others.slice(0, room)].join(", ") + more;
}

/** Actual, forecast and previous, as far as they are known. */
function Figures({ event: { forecast, previous, actual } }: { event: WeekEvent }) {
  const parts = [
    ["actual", actual],
    ["forecast", forecast],
    ["previous", previous],
  ].filter(([, value]) => value);
  if (parts.length === 0) return null;
  return (
    <Typography variant="body2" component="p">
      {parts.map(([name, value], i) => (
        <span key={name}>
          {i > 0 ? ", " : ""}
          {name} <strong>{value}</strong>
        </span>
      ))}
    </Typography>
  );
}
