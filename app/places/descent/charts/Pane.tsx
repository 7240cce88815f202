import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import Typography from "@mui/material/Typography";
import { useEffect, useMemo, useRef, useSyncExternalStore } from "react";
import type { ColumnRules } from "#core/columns/columns";
import { followMark } from "#core/marks/follow";
import { birthOf, type Anchor, type Life, type Mark } from "#core/marks/kind";
import { isSilent, kindOf } from "#core/marks/registry";
import { statusOf } from "#core/marks/status";
import { lengthOf, type Shown } from "#core/marks/shown";
import { priceText, rungText } from "#core/marks/wording";
import { regularCalendar, type Hours } from "#core/series/hours";
import { Calendar } from "#core/time/calendar";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { ahead, isUnfinished, shownMarks } from "../../../../chart/compose.ts";
import type { LivedMark, Picture } from "../../../../chart/picture.ts";
import type { DrawnScenario } from "../../../../chart/scenario.ts";
// Drawn in the browser only: the server neither loads nor needs the drawing library, and has no bars here to draw.
import { PriceChart } from "../../../canvas/PriceChart.client.tsx";
import type { ChartHandlers } from "../../../canvas/controller.ts";
import type { LinkedCursor } from "../../../canvas/linkedCursor.ts";
import { markOf } from "#core/finding/answer";
import type { RungReading } from "#core/finding/reading";
import type { NextShift, Offer } from "../../../../chart/offers.ts";
import type { MarketDesk } from "../marks/desks.ts";
import type { OnCharts } from "../machine/useMachine.ts";
import type { ChosenStudy } from "#core/studies/chosen";
import { useStudyLayer } from "../studies/useStudyLayer.ts";
import type { PanePlace } from "./usePanes.ts";
import { useBars, type LoadedBars } from "./useBars.ts";
import { useColumnLayer } from "../columns/useColumnLayer.ts";
import { usePyramid } from "./usePyramid.ts";

/** What a chart has on it, for those who work with it from outside. */
export interface PaneView {
  desk: MarketDesk;
  rung: string;
  calendar: Calendar;
  timeframe: Timeframe;
  bars: LoadedBars | undefined;
  picture: Picture | undefined;
  /** Why there are no columns, where they were asked for. */
  noColumns: string | undefined;
  /** Everything this rung is argued with, hidden marks too; longest rung first. */
  argued: readonly Mark[];
  wantSince(time: number): Promise<void>;
}

/** What all charts of the page have in common. */
export interface Shared {
  hours: Hours;
  asOf: number | undefined;
  now: number;
  log: boolean;
  /** Columns in place of bars, and how they are made. */
  columns: ColumnRules | undefined;
  goTo: { time: number } | undefined;
  moment: number | undefined;
  shown: Shown;
  cursor: LinkedCursor;
  dragged: Mark | undefined;
  /** What is written, and what is shown of the market that is open. */
  scenarios: readonly DrawnScenario[];
  /** The studies on the charts. */
  studies: readonly ChosenStudy[];
  /** What the machine reads and offers of the market that is worked on. */
  machine: OnCharts;
  /** A count that is looked at before it is taken. */
  looked: Mark | undefined;
}

interface Props {
  shared: Shared;
  desk: MarketDesk;
  place: PanePlace;
  name: string;
  active: boolean;
  /** Whether it stands alone: then its name is the page's. */
  alone: boolean;
  markets: readonly { id: string; name: string }[];
  selected: readonly string[];
  placing: Anchor[] | undefined;
  measured: readonly Anchor[] | undefined;
  fits: number;
  handlers: Omit<ChartHandlers, "onPointed" | "onEarliest">;
  onActivate(): void;
  onMarket(market: string): void;
  onClose(): void;
  onChange(view: PaneView): void;
}

const FUTURE_BARS = 400;
const ONE_DAY: Timeframe = { count: 1, unit: "day" };
const NOTHING: readonly string[] = [];
const NO_TIMES: readonly number[] = [];
const NO_SCENARIOS: readonly DrawnScenario[] = [];
const NO_FACTS: OnCharts["offers"] = [];

/** One chart: the bars of a market's rung, the marks on it, and the pointer's way into both. */
export function Pane({
  shared,
  desk,
  place,
  name,
  active,
  alone,
  markets,
  selected,
  placing,
  measured,
  fits,
  handlers,
  onActivate,
  onMarket,
  onClose,
  onChange,
}: Props) {
  const { hours, asOf, now, shown, cursor, dragged, scenarios, machine, studies: chosenStudies, looked } = shared;
  const { market, calendar: spec, store, lives: board } = desk;
  const { rung } = place;
  const { marks } = useSyncExternalStore(store.subscribe, store.getSnapshot, store.getSnapshot);
  const lives = useSyncExternalStore(board.subscribe, board.get, board.get);
  const { bars, wantEarlier, wantSince } = useBars(market.id, rung, hours, asOf);
  const calendar = useMemo(() => new Calendar(hours === "regular" ? regularCalendar(spec) : spec), [spec, hours]);
  const timeframe = useMemo(() => parseTimeframe(rung) ?? ONE_DAY, [rung]);
  useEffect(() => {
    if (bars) board.want(marks, { rung, hours, asOf }, bars);
  }, [board, marks, rung, hours, asOf, bars]);

  const argued = useMemo(() => {
    const own = lengthOf(rung);
    return marks
      .filter((mark) => lengthOf(mark.rung) >= own)
      .sort((a, b) => lengthOf(b.rung) - lengthOf(a.rung) || a.kind.localeCompare(b.kind));
  }, [marks, rung]);
  const ofBars = usePyramid(bars);
  const made = useColumnLayer(shared.columns, bars, market);
  const columns = typeof made === "object" ? made : undefined;
  const noColumns = typeof made === "string" ? made : undefined;
  const pyramid = columns?.pyramid ?? ofBars;
  const series = bars?.series;
  const lastTime = series?.time.at(-1);
  const future = useMemo(
    () => (series ? ahead({ series, timeframe, calendar }, FUTURE_BARS) : []),
    // What lies ahead changes with the last bar's time, not with its price.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [lastTime, timeframe, calendar],
  );
  const unfinished = series !== undefined && isUnfinished({ series, timeframe, calendar }, now);
  const studies = useStudyLayer(chosenStudies, { bars, market, rung, hours, asOf, timeframe, calendar, unfinished });
  const held = dragged?.market === market.id ? dragged : undefined;
  const lived = useMemo((): readonly LivedMark[] => {
    if (!bars) return [];
    const context = { series: bars.series, market, calendar };
    const all = argued
      .filter((mark) => !isSilent(mark))
      .map((mark) => {
        const drawn = held?.id === mark.id ? held : mark;
        return {
          mark: drawn,
          life: drawn === mark ? (lives.get(mark.id)?.life ?? unborn(mark, context)) : draftLife(drawn, context),
        };
      });
    const kept = shownMarks(all, rung, bars.series, shown, selected);
    const drawn = active && looked?.market === market.id ? [{ mark: looked, life: draftLife(looked, context) }] : [];
    return [...kept, ...drawn];
  }, [bars, argued, lives, held, market, calendar, rung, shown, selected, active, looked]);
  const read = machine.market === market.id ? machine : undefined;
  const facts = active && read ? read.offers : NO_FACTS;
  const currentKey = machine.current;
  const offers = useMemo((): readonly Offer[] => {
    if (!bars) return [];
    const context = { series: bars.series, market, calendar };
    return facts.map((fact) => {
      const mark = markOf(fact, market.id, fact.key);
      return {
        mark,
        life: unborn(mark, context),
        name: fact.lineage.some((one) => one.rung === rung) ? fact.name : `${fact.name}, ${rungText(fact.rung)}`,
        current: fact.key === currentKey,
      };
    });
  }, [bars, facts, currentKey, market, calendar, rung]);
  const reading = read?.rungs.find((one) => one.rung === rung);
  const trend = reading?.trend;
  const kept = read?.shiftRungs;
  const readings = read?.rungs;
  const longerShifts = useMemo(
    () =>
      readings?.flatMap((one) =>
        one.trend && kept?.includes(one.rung) && lengthOf(one.rung) > lengthOf(rung)
          ? [{ rung: one.rung, ...shiftOf(one.trend) }]
          : [],
      ),
    [readings, kept, rung],
  );
  const swingNames = read?.names ? reading?.labels : undefined;
  const picture = useMemo((): Picture | undefined => {
    if (!pyramid) return undefined;
    return {
      pyramid,
      market,
      timeframe,
      calendar,
      // Beside columns no bars are to come: when the next one begins nobody knows.
      future: columns ? NO_TIMES : future,
      columns: columns?.layer,
      marks: lived,
      scenarios: active && place.market === "" ? scenarios : NO_SCENARIOS,
      selected: active ? selected : NOTHING,
      unfinished: unfinished && !columns,
      offers,
      swingNames: swingNames ?? [],
      areas: read?.areas ?? [],
      chosenArea: read?.chosen,
      nextShift: trend && shiftOf(trend),
      longerShifts,
      studies: columns ? undefined : studies,
    };
  }, [
    pyramid,
    columns,
    market,
    timeframe,
    calendar,
    future,
    lived,
    scenarios,
    active,
    place.market,
    selected,
    unfinished,
    offers,
    swingNames,
    read?.areas,
    read?.chosen,
    trend,
    longerShifts,
    studies,
  ]);

  const tell = useRef(onChange);
  useEffect(() => {
    tell.current = onChange;
  });
  useEffect(
    () => tell.current({ desk, rung, calendar, timeframe, bars, picture, noColumns, argued, wantSince }),
    [desk, rung, calendar, timeframe, bars, picture, noColumns, argued, wantSince],
  );

  const close = bars && bars.series.length > 0 ? bars.series.close[bars.series.length - 1] : undefined;
  return (
    <Box
      data-active={active || undefined}
      sx={{ position: "relative", minWidth: 0, minHeight: 0, height: "100%" }}
      onPointerDownCapture={onActivate}
      onFocusCapture={onActivate}
    >
      {!alone && (
        <Box
          sx={{
            position: "absolute",
            inset: "0 0 auto 0",
            height: 24,
            px: 1,
            display: "flex",
            alignItems: "center",
            gap: 1,
            borderTop: active ? "2px solid" : "1px solid",
            borderColor: active ? "text.primary" : "divider",
          }}
        >
          <Select
            variant="standard"
            disableUnderline
            displayEmpty
            value={place.market}
            onChange={(event) => onMarket(event.target.value)}
            inputProps={{ "aria-label": `Market of chart ${name}` }}
            renderValue={() => market.name}
            sx={{ fontSize: "0.8rem", minWidth: 0, fontWeight: active ? 600 : 400 }}
          >
            <MenuItem value="">The market that is open</MenuItem>
            {markets.map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {one.name}
              </MenuItem>
            ))}
          </Select>
          <Typography variant="body2" sx={{ fontWeight: active ? 600 : 400, whiteSpace: "nowrap" }}>
            {rungText(rung)}
          </Typography>
          <Typography variant="body2" color="text.secondary" sx={{ flex: 1, whiteSpace: "nowrap" }}>
            {close === undefined ? "" : priceText(close, market)}
          </Typography>
          <Box
            component={ButtonBase}
            disableRipple
            onClick={onClose}
            aria-label={`Close chart ${name}`}
            title="Close this chart (X)"
            sx={{
              font: "inherit",
              color: "text.secondary",
              minWidth: 24,
              minHeight: 24,
            }}
          >
            {"\u00d7"}
          </Box>
        </Box>
      )}
      <Box sx={{ position: "absolute", inset: alone ? 0 : "24px 0 0 0" }}>
        {picture && (
          <PriceChart
            name={name}
            picture={picture}
            subject={`${market.id} ${rung} ${hours} ${columns ? JSON.stringify(shared.columns) : "bars"}`}
            placing={placing}
            measured={measured}
            log={shared.log || isEven(shared.columns)}
            goTo={shared.goTo}
            moment={shared.moment}
            fits={fits}
            cursor={cursor}
            handlers={{ ...handlers, onEarliest: wantEarlier }}
            label={`Chart of ${market.name}, ${rungText(rung)}`}
          />
        )}
      </Box>
      {bars?.series.length === 0 && (
        <Typography sx={{ position: "absolute", top: "40%", width: "100%", textAlign: "center" }}>
          No stored bars are fine enough for this rung. Choose a higher one, or import finer bars.
        </Typography>
      )}
    </Box>
  );
}

/** Boxes in percent are equal on an even axis of ratios, and are always drawn on one. */
const isEven = (columns: ColumnRules | undefined): boolean =>
  columns !== undefined && typeof columns.box === "object" && "percent" in columns.box;

function shiftOf({ way, line }: NonNullable<RungReading["trend"]>): NextShift {
  return { direction: way === "up" ? "down" : "up", ...line };
}

type Context = Parameters<typeof followMark>[1];

/** How a mark is drawn until its life has been worked out: as it was born. */
function unborn(mark: Mark, context: Context): Life {
  const kind = kindOf(mark);
  const state = kind.start(mark, context);
  return { ...statusOf(kind.status(state)), state, events: [] };
}

/** While a mark is dragged only recent bars are looked at, so that the hand is never waited for. */
function draftLife(mark: Mark, context: Context): Life {
  return context.series.length < 30_000 || birthOf(mark) > context.series.time[context.series.length - 30_000]
    ? followMark(mark, context)
    : unborn(mark, context);
}
