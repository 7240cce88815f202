import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import MenuItem from "@mui/material/MenuItem";
import MuiLink from "@mui/material/Link";
import Select from "@mui/material/Select";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useCallback, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { countText } from "#core/marks/wording";
import { nextStop, type Stop } from "#core/round/walk";
import { readClock } from "../../../server/clock.ts";
import { boardOf } from "../../../server/round/board.ts";
import { sideOf } from "../../../server/round/side.ts";
import { answer, personIn } from "../../access.server.ts";
import { FirstSteps } from "../../parts/FirstSteps.tsx";
import { useCommands } from "../../parts/keys.ts";
import { useMarketClock } from "../../parts/live.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { Board } from "./Board.tsx";
import { EndOfRound } from "./EndOfRound.tsx";
import { arrange, FILTERS, FILTER_NAMES, ORDERS, ORDER_NAMES, type Filter, type Order } from "./order.ts";
import { SidePanel } from "./SidePanel.tsx";
import { useRound } from "./useRound.ts";
import { roundTitle } from "./words.ts";
import type { Route } from "./+types/round.ts";

/** With its chart; the board needs none. */
const Walk = lazy(async () => ({ default: (await import("./Walk.tsx")).Walk }));

export const meta: Route.MetaFunction = () => [{ title: "Round - Even Compass" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { id } = personIn(context);
    const list = new URL(request.url).searchParams.get("list") ?? "";
    const [board, side, clock] = await Promise.all([boardOf(id, list), sideOf(id), readClock()]);
    return { account: id, board, side, clock };
  });
}

/** Where the walk stands is the page's own business; another list is another board. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  defaultShouldRevalidate,
}: {
  currentUrl: URL;
  nextUrl: URL;
  defaultShouldRevalidate: boolean;
}) {
  const list = (url: URL) => url.searchParams.get("list");
  return currentUrl.pathname === nextUrl.pathname &&
    list(currentUrl) === list(nextUrl) &&
    currentUrl.search !== nextUrl.search
    ? false
    : defaultShouldRevalidate;
}

export default function RoundPage({ loaderData }: Route.ComponentProps) {
  const { board } = loaderData;
  return <Place key={`${board.list.id} ${board.set.id} ${board.rungs.join(" ")}`} {...loaderData} />;
}

/** The analyst's home: every market on every rung at a glance, and the walk through them. */
function Place({ account, board, side, clock }: Route.ComponentProps["loaderData"]) {
  const [query, setQuery] = useSearchParams();
  const { now } = useMarketClock(clock);
  const [order, setOrder] = useState<Order>("list");
  const [filter, setFilter] = useState<Filter>("all");
  const [ending, setEnding] = useState(false);
  const at = readStop(query.get("at"));
  const round = useRound(board, now, at?.market);
  const address = useCallback(
    (market: string, rung: string) => addressOf(board.list.id, market, rung),
    [board.list.id],
  );
  const go = (stop: Stop | undefined, only = false) =>
    setQuery(
      (before) => {
        const after = new URLSearchParams(before);
        if (stop) after.set("at", `${stop.market}~${stop.rung}`);
        else after.delete("at");
        if (only) after.set("only", "open");
        if (!stop) after.delete("only");
        return after;
      },
      { preventScrollReset: true },
    );
  const open = round.stops.filter(round.isOpen).length;
  const begin = (only: boolean) => go(nextStop(round.stops, undefined, only ? round.isOpen : undefined), only);
  useCommands(at || ending ? {} : { startWalk: () => begin(false) });
  if (at && round.rowOf(at.market))
    return (
      <Suspense fallback={<Typography sx={{ p: 2 }}>The chart is on its way.</Typography>}>
        <Walk
          key={board.list.id}
          account={account}
          board={board}
          round={round}
          at={at}
          onlyOpen={query.get("only") === "open"}
          now={now}
          go={go}
          onEnd={() => (setEnding(true), go(undefined))}
        />
      </Suspense>
    );
  if (board.empty)
    return (
      <Box component="main" id="content" sx={{ flex: 1, minHeight: 0, overflow: "auto", px: 2, py: 1.5 }}>
        <PageTitle>The desk is empty</PageTitle>
        <FirstSteps />
      </Box>
    );
  const { markets, ofMarkets, looked, of } = round.done;
  const said = (verdict: string) => round.rows.filter((row) => row.verdict?.verdict === verdict).length;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: "flex" }}>
      <Box component="main" id="content" sx={{ flex: 1, minWidth: 0, overflow: "auto", px: 2, py: 1.5 }}>
        <PageTitle
          aside={
            <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", columnGap: 1.5, rowGap: 0.5 }}>
              <Typography variant="body2" role="status">
                {round.startedAt === undefined
                  ? `${countText(ofMarkets, "market")}, ${countText(of, "stop")}`
                  : `${markets} of ${ofMarkets} markets done; ${said("plan")} plan, ${said("watch")} watch`}
                {round.waiting > 0 ? `; ${countText(round.waiting, "market is", "markets are")} still being read` : ""}
                {round.trouble ? `; not saved yet: ${round.trouble}` : ""}
              </Typography>
              {round.startedAt !== undefined && (
                <LinearProgress
                  variant="determinate"
                  value={of > 0 ? (100 * looked) / of : 0}
                  aria-label="Looked at in this round"
                  sx={{ width: 80 }}
                />
              )}
              <Button variant="contained" onClick={() => begin(false)} title="G" disabled={of === 0}>
                {round.startedAt === undefined ? "Walk the round" : "Walk from the top"}
              </Button>
              {open > 0 && open < of && (
                <Button onClick={() => begin(true)} title="Only where a candle closed since you looked">
                  Walk the {open} closed
                </Button>
              )}
              {round.startedAt !== undefined && <Button onClick={() => setEnding(true)}>End the round</Button>}
            </Box>
          }
        >
          {roundTitle(round.today, round.startedAt !== undefined)}
        </PageTitle>
        {ending && <EndOfRound round={round} onLeave={() => setEnding(false)} />}
        <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 2, alignItems: "baseline", mb: 0.5 }}>
          <Box component="nav" aria-label="Lists" sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", flex: 1 }}>
            {board.lists.map(({ id, name, rare }) => (
              <MuiLink
                key={id}
                component={Link}
                to={id ? `/round?list=${id}` : "/round"}
                underline="hover"
                aria-current={id === board.list.id ? "page" : undefined}
                sx={{
                  minHeight: 24,
                  fontWeight: id === board.list.id ? 600 : 400,
                  fontStyle: rare ? "italic" : "normal",
                }}
              >
                {name}
              </MuiLink>
            ))}
            <MuiLink component={Link} to="/round/lists" underline="hover" color="text.secondary" sx={{ minHeight: 24 }}>
              Lists
            </MuiLink>
            <MuiLink
              component={Link}
              to="/round/evening"
              underline="hover"
              color="text.secondary"
              sx={{ minHeight: 24 }}
            >
              Evening list
            </MuiLink>
            <MuiLink
              component={Link}
              to="/round/history"
              underline="hover"
              color="text.secondary"
              sx={{ minHeight: 24 }}
            >
              Past rounds
            </MuiLink>
          </Box>
          <Choice label="Shown" value={filter} names={FILTER_NAMES} all={FILTERS} onChange={setFilter} />
          <Choice label="In order" value={order} names={ORDER_NAMES} all={ORDERS} onChange={setOrder} />
        </Box>
        {round.rows.length === 0 ? (
          <Typography>This list has no market.</Typography>
        ) : (
          <Board
            groups={arrange(round.rows, order, filter, board.tradable, board.list.id === "")}
            rungs={board.rungs}
            tradable={board.tradable}
            now={now}
            addressOf={address}
          />
        )}
        <Typography variant="caption" color="text.secondary" component="p" sx={{ mt: 1 }}>
          Arrow keys walk the board, Enter looks there, G walks the round. A dot: closed since you looked. A bracket:
          near an area, dotted where only the machine sees one, light where it stands on a longer rung already. A ring:
          shift of structure in the last three bars. + indecision, {"\u25ae"} engulfing candle at the area.
        </Typography>
      </Box>
      <Box
        component="aside"
        aria-label="Beside the board"
        sx={{
          width: 290,
          flexShrink: 0,
          overflow: "auto",
          bgcolor: "background.paper",
          borderLeft: 1,
          borderColor: "divider",
          px: 2,
          py: 1.5,
          display: { xs: "none", md: "block" },
        }}
      >
        <SidePanel round={round} side={side} tradable={board.tradable} now={now} addressOf={address} />
      </Box>
    </Box>
  );
}

function Choice<T extends string>({
  label,
  value,
  names,
  all,
  onChange,
}: {
  label: string;
  value: T;
  names: Record<T, string>;
  all: readonly T[];
  onChange(value: T): void;
}) {
  return (
    <Select
      variant="standard"
      disableUnderline
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
      inputProps={{ "aria-label": label }}
      sx={{ fontSize: "0.85rem", color: "text.secondary" }}
    >
      {all.map((one) => (
        <MenuItem key={one} value={one}>
          {names[one]}
        </MenuItem>
      ))}
    </Select>
  );
}

function readStop(text: string | null): Stop | undefined {
  const [market, rung] = (text ?? "").split("~");
  return market && rung ? { market, rung } : undefined;
}

/** The address of a stop of a list; the list of all has no name. */
function addressOf(list: string, market: string, rung: string): string {
  const at = `${market}~${rung}`;
  return `?${new URLSearchParams(list ? { list, at } : { at }).toString()}`;
}
