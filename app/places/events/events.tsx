import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Form, Link, useSubmit } from "react-router";
import { EventDto } from "#contracts/event";
import { countText } from "#core/marks/wording";
import { DAY, dayNumber, formatDate } from "#core/time/dates";
import {
  eventsBetween,
  importEvents,
  marketsTouched,
  removeEvent,
  saveEvent,
  type StoredEvent,
} from "../../../server/events/events.ts";
import { listMarkets } from "../../../server/bars/markets.ts";
import { readClock } from "../../../server/clock.ts";
import { answer, attempt, readField, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { Ticks } from "../round/SidePanel.tsx";
import { clockText } from "../round/words.ts";
import { EventForm } from "./EventForm.tsx";
import type { Route } from "./+types/events.ts";

export const meta: Route.MetaFunction = () => [{ title: "Events - Even Compass" }];

const SHOWN = 14 * DAY;

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { now } = await readClock();
    const asked = new URL(request.url).searchParams.get("from");
    const parsed = asked && /^\d{4}-\d{2}-\d{2}$/.test(asked) ? Date.parse(`${asked}T00:00:00Z`) : NaN;
    const from = Number.isFinite(parsed) ? parsed : Math.floor(now / DAY) * DAY;
    const events = await eventsBetween(from, from + SHOWN);
    const touched = await marketsTouched(events);
    return {
      now,
      from,
      events: events.map((event) => ({ ...event, touched: touched.get(event.id) ?? [] })),
      markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
    };
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const text = (name: string) => textField(form, name);
    if (text("step") === "remove") await removeEvent(text("id"));
    else if (text("step") === "import")
      return { report: await importEvents(text("text"), text("name"), text("zone") || "UTC", request.signal) };
    else await saveEvent(readField(form, "event", EventDto));
    return {};
  });
}

/** Releases, speeches, holidays and expiries, and the markets each of them touches. */
export default function Events({ loaderData: { now, from, events, markets }, actionData }: Route.ComponentProps) {
  const submit = useSubmit();
  const [editing, setEditing] = useState<StoredEvent | "new">();
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const report = actionData && "report" in actionData ? actionData.report : undefined;
  const days = [...new Set(events.map(({ at }) => dayNumber(at)))];
  const at = (time: number) => `?from=${formatDate(dayNumber(time))}`;
  const send = async (file: File | undefined) => {
    if (file)
      void submit(
        { step: "import", text: await file.text(), name: file.name, zone: "UTC" },
        { method: "post", encType: "multipart/form-data" },
      );
  };
  return (
    <Page>
      <PageTitle
        aside={
          <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
            <Button variant="contained" onClick={() => setEditing("new")}>
              Enter an event
            </Button>
            <Button component="label">
              Import a calendar
              <input
                type="file"
                accept=".ics,.csv,text/calendar,text/csv"
                hidden
                onChange={(event) => {
                  void send(event.target.files?.[0]);
                  event.target.value = "";
                }}
              />
            </Button>
            <Button component="a" href="/events/calendar.ics">
              As iCalendar
            </Button>
          </Box>
        }
      >
        Events
      </PageTitle>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {report && (
        <Box role="status" sx={{ mb: 2 }}>
          <Typography>
            {countText(report.added, "event")} added, {report.changed} changed, {report.same} known already.
            {report.faults.length > 0
              ? ` ${countText(report.faults.length, "entry was", "entries were")} left out:`
              : ""}
          </Typography>
          {report.faults.slice(0, 8).map(({ where, reason }) => (
            <Typography key={where} variant="body2">
              {where}: {reason}
            </Typography>
          ))}
        </Box>
      )}
      {editing && (
        <EventForm
          key={editing === "new" ? "new" : editing.id}
          event={editing === "new" ? undefined : editing}
          markets={markets}
          now={now}
          onLeave={() => setEditing(undefined)}
        />
      )}
      <Box component="nav" aria-label="Weeks" sx={{ display: "flex", gap: 2, mb: 1 }}>
        <MuiLink component={Link} to={at(from - SHOWN)}>
          Two weeks earlier
        </MuiLink>
        <MuiLink component={Link} to="/events">
          Today
        </MuiLink>
        <MuiLink component={Link} to={at(from + SHOWN)}>
          Two weeks later
        </MuiLink>
      </Box>
      {events.length === 0 && (
        <Typography color="text.secondary">
          No event is known for these two weeks. Enter one, or import a calendar (iCalendar, or CSV with a header).
        </Typography>
      )}
      {days.map((day) => (
        <Box key={day} component="section" aria-label={formatDate(day)} sx={{ mb: 2 }}>
          <Typography variant="h3" sx={{ borderBottom: "1.5px solid", borderColor: "text.primary" }}>
            {momentText(day * DAY, "utc").replace(/, 00:00$/, "")}
          </Typography>
          {events
            .filter((event) => dayNumber(event.at) === day)
            .map((event) => (
              <Box
                key={event.id}
                sx={{
                  display: "grid",
                  gridTemplateColumns: "64px 34px minmax(0, 1.3fr) minmax(0, 1fr) auto",
                  columnGap: 1.5,
                  alignItems: "center",
                  borderBottom: 1,
                  borderColor: "divider",
                  py: 0.25,
                  fontSize: "0.925rem",
                  color: event.at < now && !event.allDay ? "text.secondary" : "text.primary",
                }}
              >
                <strong>{event.allDay ? "all day" : clockText(event.at, event.at)}</strong>
                <Ticks impact={event.impact} />
                <span>
                  {event.title}
                  {event.kind === "release" ? figuresText(event) : `, ${event.kind}`}
                </span>
                <Box
                  component="span"
                  sx={{ color: "text.secondary", fontSize: "0.85rem" }}
                  title={event.touched.join(", ")}
                >
                  {event.touched.length === 0
                    ? "touches no market"
                    : event.touched.length <= 3
                      ? event.touched.join(", ")
                      : `${event.touched.slice(0, 2).join(", ")} and ${event.touched.length - 2} more`}
                </Box>
                <Form method="post" style={{ display: "flex" }}>
                  <input type="hidden" name="id" value={event.id} />
                  <Button variant="text" onClick={() => setEditing(event)} aria-label={`Change ${event.title}`}>
                    Change
                  </Button>
                  <Button variant="text" type="submit" name="step" value="remove" aria-label={`Remove ${event.title}`}>
                    Remove
                  </Button>
                </Form>
              </Box>
            ))}
        </Box>
      ))}
      <Typography variant="caption" color="text.secondary">
        Times are UTC. One stroke: moves little; three: much.
      </Typography>
    </Page>
  );
}

function figuresText({ forecast, previous, actual }: StoredEvent): string {
  const parts = [
    actual && `actual ${actual}`,
    forecast && `forecast ${forecast}`,
    previous && `previous ${previous}`,
  ].filter(Boolean);
  return parts.length > 0 ? ` (${parts.join(", ")})` : "";
}
