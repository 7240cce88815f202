import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { atOneInstant, grouped, groupText } from "#core/events/event";
import { countText, rungText } from "#core/marks/wording";
import { asksAgain } from "#core/round/verdict";
import { closingNext, isDue, type Cell } from "#core/round/walk";
import { spanText } from "../../../chart/measure.ts";
import type { BoardCell } from "../../../server/round/board.ts";
import type { Side } from "../../../server/round/side.ts";
import { DAY } from "#core/time/dates";
import { dateText } from "../../parts/times.ts";
import { shortRung } from "./Board.tsx";
import type { Round } from "./useRound.ts";
import { clockText } from "./words.ts";

interface Props {
  round: Round;
  side: Side;
  tradable: readonly string[];
  now: number;
  addressOf(market: string, rung: string): string;
}

const LISTED = 5;
const EVENTS = 6;

/** What is over stands last. */
function isOver({ at, allDay }: { at: number; allDay: boolean }, now: number): boolean {
  return !allDay && at < now;
}

/** What was watched is told on the next days until something is said of it, over a weekend too. */
const WATCHED_FOR = 4 * DAY;

/** Whether what was said in a round before still asks for a look. */
export function isStillWatched(said: { verdict: string; saidAt: number } | null, now: number): boolean {
  return said !== null && said.verdict !== "nothing" && said.saidAt <= now && now - said.saidAt < WATCHED_FOR;
}

/**
 * Beside the board: what closes next, what was not looked at, today's events, follow-ups and alerts, and what to look
 * out for.
 */
export function SidePanel({ round, side, tradable, now, addressOf }: Props) {
  const cells: Cell[] = round.rows.flatMap((row) =>
    row.cells.filter(
      (cell): cell is BoardCell => cell !== null && cell.close !== undefined && tradable.includes(cell.rung),
    ),
  );
  const nameOf = (market: string) => round.rowOf(market)?.name ?? market;
  const closing = closingNext(cells, now, 4);
  const due = cells.filter(isDue).sort((a, b) => (b.closedAt ?? 0) - (a.closedAt ?? 0));
  const dueMarkets = [...new Set(due.map(({ market }) => market))];
  const asked = round.rows.filter(({ verdict }) => verdict && asksAgain(verdict, now));
  const watched = round.rows.filter(({ verdict }) => verdict && verdict.verdict !== "nothing");
  const before = round.rows.filter(({ verdict, before: said }) => !verdict && isStillWatched(said, now));
  const touched = (id: string) =>
    round.rows.filter(({ events }) => events.some((event) => event.id === id)).map(({ name }) => name);
  const clash = grouped(side.events.filter(({ at }) => at >= now)).find(
    (group) => group.length > 1 || group[0].kind === "speech",
  );
  return (
    <>
      <Part title="Closing next">
        {closing.length === 0 && <Empty>No market is open.</Empty>}
        {closing.map(({ at, rungs, markets }) => (
          <Line
            key={at}
            when={clockText(at, now)}
            what={rungs.map(shortRung).join(", ")}
            end={
              markets.length === round.rows.length
                ? "all markets"
                : markets.length <= 2
                  ? markets.map(nameOf).join(", ")
                  : countText(markets.length, "market")
            }
            title={`in ${spanText(at - now)}`}
          />
        ))}
      </Part>
      {asked.length > 0 && (
        <Part title="To be asked again">
          {asked.slice(0, LISTED).map((row) => (
            <Line
              key={row.id}
              when={rungText(row.verdict?.rung ?? "")}
              what={
                <MuiLink component={Link} to={addressOf(row.id, row.verdict?.rung ?? "")}>
                  {row.name}
                </MuiLink>
              }
              end={row.verdict?.verdict ?? ""}
            />
          ))}
        </Part>
      )}
      <Part title="Not looked at since its close">
        {dueMarkets.length === 0 && <Empty>Everything was looked at.</Empty>}
        {dueMarkets.slice(0, LISTED).map((market) => {
          const own = due.filter((cell) => cell.market === market);
          return (
            <Line
              key={market}
              when={own.length === 1 ? shortRung(own[0].rung) : `${own.length} rungs`}
              what={
                <MuiLink component={Link} to={addressOf(market, own[0].rung)}>
                  {nameOf(market)}
                </MuiLink>
              }
              end={clockText(own[0].closedAt ?? now, now)}
            />
          );
        })}
        {dueMarkets.length > LISTED && <Empty>and {countText(dueMarkets.length - LISTED, "market")} more</Empty>}
      </Part>
      <Part title="Today's events" to="/events">
        {side.events.length === 0 && <Empty>None is known for today.</Empty>}
        {atOneInstant(side.events)
          .sort(([a], [b]) => Number(isOver(a, now)) - Number(isOver(b, now)) || a.at - b.at)
          .slice(0, EVENTS)
          .map((group) => {
            const [{ id, at, allDay, title, kind }] = group;
            const impact = Math.max(...group.map((event) => event.impact));
            return (
              <Line
                key={id}
                when={allDay ? "all day" : clockText(at, now)}
                what={group.length > 1 ? groupText(group) : title}
                end={kind === "release" ? <Ticks impact={impact} /> : kind}
                faded={isOver({ at, allDay }, now)}
                title={[...new Set(group.flatMap((event) => touched(event.id)))].join(", ")}
              />
            );
          })}
        {clash && (
          <Typography variant="caption" color="text.secondary" component="p">
            {clash.length > 1
              ? `${clash.length} releases within 15 minutes of ${clockText(clash[0].at, now)}`
              : `A speech at ${clockText(clash[0].at, now)}`}
            : a reason to wait
            {touched(clash[0].id).length > 0
              ? ` on ${listText([...new Set(clash.flatMap(({ id }) => touched(id)))])}`
              : ""}
            .
          </Typography>
        )}
      </Part>
      {side.followUps.length > 0 && (
        <Part title="Follow-ups">
          {side.followUps.map(({ edition, market, plan, time, says }) => (
            <Line
              key={`${edition} ${plan} ${time} ${says}`}
              when={clockText(time, now)}
              what={<MuiLink component={Link} to={`/outlooks/${edition}`}>{`${market}: ${says}`}</MuiLink>}
              end=""
            />
          ))}
        </Part>
      )}
      {side.firings.length > 0 && (
        <Part title="Alerts" to="/alerts">
          {side.firings.slice(0, LISTED).map(({ number, market, name, firedAt, says }) => (
            <Line
              key={number}
              when={clockText(firedAt, now)}
              what={<MuiLink component={Link} to={`/descent/${market}`}>{`${name}: ${says}`}</MuiLink>}
              end=""
            />
          ))}
        </Part>
      )}
      <Part title="To look out for" to="/round/history">
        {watched.length + before.length === 0 && <Empty>Nothing was watched or planned in this round yet.</Empty>}
        {watched.map((row) => (
          <Typography key={row.id} variant="body2">
            <MuiLink component={Link} to={addressOf(row.id, row.verdict?.rung ?? "")}>
              {row.name}
            </MuiLink>
            , {row.verdict?.verdict} on {rungText(row.verdict?.rung ?? "")}
            {row.verdict?.remark ? `: ${row.verdict.remark}` : "."}
          </Typography>
        ))}
        {before.map(({ id, name, before: said }) => (
          <Typography key={id} variant="body2" color="text.secondary">
            <MuiLink component={Link} to={addressOf(id, said?.rung ?? "")}>
              {name}
            </MuiLink>
            , {said?.verdict} on {rungText(said?.rung ?? "")} since {dateText(said?.saidAt ?? now)}
            {said?.remark ? `: ${said.remark}` : "."}
          </Typography>
        ))}
      </Part>
    </>
  );
}

function listText(names: readonly string[]): string {
  return names.length <= 3 ? names.join(", ") : `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`;
}

export function Ticks({ impact }: { impact: number }) {
  return (
    <span role="img" aria-label={`impact ${impact} of 3`}>
      {"|".repeat(impact)}
    </span>
  );
}

function Part({ title, to, children }: { title: string; to?: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ borderBottom: 1, borderColor: "divider", pb: 1.25, mb: 1.25 }}>
      <Typography variant="h3" sx={{ mb: 0.25 }}>
        {to ? (
          <MuiLink component={Link} to={to} underline="hover">
            {title}
          </MuiLink>
        ) : (
          title
        )}
      </Typography>
      {children}
    </Box>
  );
}

function Empty({ children }: { children: ReactNode }) {
  return (
    <Typography variant="body2" color="text.secondary">
      {children}
    </Typography>
  );
}

function Line({
  when,
  what,
  end,
  faded,
  title,
}: {
  when: string;
  what: ReactNode;
  end: ReactNode;
  faded?: boolean;
  title?: string;
}) {
  return (
    <Box
      title={title}
      sx={{
        display: "grid",
        gridTemplateColumns: "58px 1fr auto",
        columnGap: 1,
        fontSize: "0.875rem",
        lineHeight: "24px",
        "& a": { display: "inline-block", minHeight: 24 },
        color: faded ? "text.secondary" : "text.primary",
      }}
    >
      <Box component="span" sx={{ fontWeight: 600, whiteSpace: "nowrap" }}>
        {when}
      </Box>
      <span>{what}</span>
      <Box component="span" sx={{ color: "text.secondary", textAlign: "right" }}>
        {end}
      </Box>
    </Box>
  );
}
