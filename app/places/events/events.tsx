import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link, useNavigate, useSubmit } from "react-router";
import { EventDto } from "#contracts/event";
import { countText } from "#core/marks/wording";
import { DAY, dayNumber, formatDate, parseDate } from "#core/time/dates";
import { isZone, offsetAt } from "#core/time/zone";
import { importEvents, removeEvent, saveEvent, type StoredEvent } from "../../../server/events/events.ts";
import { weekFrom } from "../../../server/events/week.ts";
import { listMarkets } from "../../../server/bars/markets.ts";
import { readClock } from "../../../server/clock.ts";
import { answer, attempt, readField, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { EventDay } from "./EventDay.tsx";
import { EventForm } from "./EventForm.tsx";
import type { Route } from "./+types/events.ts";

export const meta: Route.MetaFunction = () => [{ title: "Events - Even Compass" }];

const SHOWN = 7 * DAY;

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { now } = await readClock();
    const query = new URL(request.url).searchParams;
    const asked = parseDate(query.get("from") ?? "");
    const zone = query.get("zone") ?? "UTC";
    const from = asked === undefined ? Math.floor(now / DAY) * DAY : asked * DAY;
    return {
      now,
      from,
      zone: isZone(zone) ? zone : "UTC",
      week: await weekFrom(from),
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

/** The week ahead: releases, speeches, holidays and expiries by day and hour, and the markets each of them touches. */
export default function Events({ loaderData: { now, from, zone, week, markets }, actionData }: Route.ComponentProps) {
  const submit = useSubmit();
  const navigate = useNavigate();
  const [editing, setEditing] = useState<StoredEvent | "new">();
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const report = actionData && "report" in actionData ? actionData.report : undefined;
  const days = Array.from({ length: SHOWN / DAY }, (_, i) => dayNumber(from) + i);
  const dayOf = ({ at, allDay }: StoredEvent) => dayNumber(allDay ? at : at + offsetAt(at, zone));
  const at = (time: number, own = zone) =>
    `?from=${formatDate(dayNumber(time))}${own === "UTC" ? "" : `&zone=${encodeURIComponent(own)}`}`;
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
          <Box data-no-print sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
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
            <Button component="a" href="/events/calendar.csv">
              As CSV
            </Button>
            <Button onClick={() => window.print()}>Print the week</Button>
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
      <Box
        component="nav"
        aria-label="Weeks"
        data-no-print
        sx={{ display: "flex", gap: 2, mb: 1.5, alignItems: "end" }}
      >
        <MuiLink component={Link} to={at(from - SHOWN)}>
          A week earlier
        </MuiLink>
        <MuiLink component={Link} to={at(now)}>
          From today
        </MuiLink>
        <MuiLink component={Link} to={at(from + SHOWN)}>
          A week later
        </MuiLink>
        <Box sx={{ flex: 1 }} />
        <Autocomplete
          options={ZONES}
          value={zone}
          disableClearable
          autoHighlight
          onChange={(_event, chosen) => void navigate(at(from, chosen))}
          renderInput={(params) => <TextField {...params} label="Times in" />}
          sx={{ width: 220 }}
        />
      </Box>
      {days.map((day) => (
        <EventDay
          key={day}
          title={dayText(day)}
          events={week.events.filter((event) => dayOf(event) === day)}
          closed={week.closed.find(({ date }) => date === formatDate(day))}
          zone={zone}
          now={now}
          onChange={setEditing}
        />
      ))}
      <Typography variant="caption" color="text.secondary">
        Times are in {zone}. One stroke: moves little; three: much. ATR: how far price went within an hour after earlier
        releases of that name, in ATR(14) of the day, their median.
      </Typography>
    </Page>
  );
}

const ZONES = ["UTC", ...Intl.supportedValuesOf("timeZone").filter((zone) => zone !== "UTC")];

/** "Wed 14 Oct 2026" */
const dayText = (day: number) => momentText(day * DAY, "utc").replace(/, 00:00$/, "");
