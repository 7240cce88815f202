import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useMemo, useRef, useState, useSyncExternalStore } from "react";
import { useNavigate } from "react-router";
import type { Anchor, Life, Mark, MarketFacts } from "#core/marks/kind";
import { followMark } from "#core/marks/follow";
import { bornAt, kindOf } from "#core/marks/registry";
import { rungText } from "#core/marks/wording";
import { hasOvernight, regularCalendar, type Hours } from "#core/series/hours";
import { closeOfBar } from "#core/series/resample";
import { allocate } from "#core/series/series";
import { nextTimes } from "#core/time/boundaries";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { nextInWalk, tradableRungs, type RungSet } from "#core/time/rungs";
import { nominalLength, parseTimeframe, type Timeframe } from "#core/time/timeframe";
import type { Picture } from "../../../chart/picture.ts";
import type { View } from "../../../chart/scale.ts";
import { buildPyramid } from "../../../chart/pyramid.ts";
// Drawn in the browser only: the server neither loads nor needs the drawing library, and has no bars here to draw.
import { PriceChart } from "../../canvas/PriceChart.client.tsx";
import { useCommands } from "../../parts/keys.ts";
import { useMarketClock, type Clock } from "../../parts/live.ts";
import type { ReadAt } from "../../canvas/crosshair.ts";
import { ChartTools } from "./ChartTools.tsx";
import { LevelsBelow } from "./LevelsBelow.tsx";
import { KINDS } from "./kinds.ts";
import { MarketLine } from "./MarketLine.tsx";
import { MarkStore } from "./markStore.ts";
import type { StoredPlan } from "./PlanBuilder.tsx";
import { RungColumn } from "./RungColumn.tsx";
import { Sheet } from "./Sheet.tsx";
import { useBars } from "./useBars.ts";
import { usePlacing } from "./usePlacing.ts";
import { useSketches } from "./useSketches.ts";
import { stepFrom } from "./walk.ts";
import { WalkLine } from "./WalkLine.tsx";
import { viewAddress } from "./view.ts";
import { useDescentOffers } from "./useDescentOffers.ts";
import { useLives } from "./useLives.ts";
import { Readout } from "./Readout.tsx";

interface Props {
  market: MarketFacts;
  calendar: CalendarSpec;
  rung: string;
  hours: Hours;
  /** The past instant the desk is put to. */
  asOf: number | undefined;
  rungSet: RungSet;
  rungSets: { id: string; name: string }[];
  markets: { id: string; name: string }[];
  marks: Mark[];
  scenarios: StoredPlan[];
  clock: Clock;
}

const NO_BARS = allocate(0);
const FUTURE_BARS = 400;
/** Bars before the last one where walking through the past begins. */
const WALKED_BACK = 40;
const ONE_DAY: Timeframe = { count: 1, unit: "day" };

/** The workspace of one market: rungs, chart and Sheet around one set of marks. */
export function Workspace({ market, calendar: spec, rung, hours, asOf, rungSet, rungSets, markets, marks: loaded, scenarios: loadedPlans, clock: initial }: Props) {
  const [store] = useState(() => new MarkStore(market.id, loaded));
  const { marks: all, save, canUndo, canRedo } = useSyncExternalStore(store.subscribe, store.getSnapshot, store.getSnapshot);
  const [plans, setPlans] = useState(loadedPlans);
  const [shownPlan, setShownPlan] = useState<string>();
  const [selected, setSelected] = useState<string>();
  const [dragged, setDragged] = useState<Mark>();
  const [readout, setReadout] = useState<ReadAt>();
  const [log, setLog] = useState(false);
  const [going, setGoing] = useState(false);
  const [goTo, setGoTo] = useState<{ time: number }>();
  const [fits, setFits] = useState(0);
  const [table, setTable] = useState(false);
  /** Where the chart last said it stands; read when a file of it is asked for. */
  const seen = useRef<View>(undefined);
  const present = useMarketClock(initial);
  const clock = asOf === undefined ? present : { ...present, now: asOf };
  // In the past there is no mark yet of which a point lies ahead.
  const marks = useMemo(() => (asOf === undefined ? all : all.filter((mark) => bornAt(mark) <= asOf)), [all, asOf]);
  const navigate = useNavigate();
  const { bars, wantEarlier, wantSince } = useBars(market.id, rung, hours, asOf);
  const sketches = useSketches(market.id, rungSet.id, hours, asOf, bars !== undefined);
  const calendar = useMemo(() => new Calendar(hours === "regular" ? regularCalendar(spec) : spec), [spec, hours]);
  const timeframe = parseTimeframe(rung) ?? ONE_DAY;
  const lives = useLives(marks, market, spec, { rung, hours, asOf }, bars);

  const finish = (kind: string, anchors: Anchor[]) => {
    if (!bars) return;
    const props = kindOf({ kind }).readProps({}) ?? {};
    const mark: Mark = { id: crypto.randomUUID(), kind, market: market.id, rung, anchors, props, note: "", author: "", version: 0 };
    const whole = kindOf(mark).complete?.(mark, { series: bars.series, market, calendar }) ?? mark;
    store.set(whole);
    setSelected(whole.id);
  };
  const placer = usePlacing(finish);
  const { placing, ruler } = placer;
  const begin = (kind: string) => {
    setSelected(undefined);
    placer.begin(kind);
  };

  const own = nominalLength(timeframe);
  const length = (mark: Mark) => nominalLength(parseTimeframe(mark.rung) ?? ONE_DAY);
  const onThisRung = marks.filter((mark) => length(mark) >= own).sort((a, b) => length(b) - length(a) || a.kind.localeCompare(b.kind));
  const toRung = (next: string | undefined) => next && void navigate(viewAddress(next, hours, asOf), { preventScrollReset: true });
  const along = (step: number) => rungSet.rungs[rungSet.rungs.findIndex((one) => one.rung === rung) + step]?.rung;
  const removeSelected = () => {
    if (!selected) return;
    store.remove(selected);
    setSelected(undefined);
  };
  const commands = {
    ...Object.fromEntries(KINDS.map(({ kind }) => [kind, () => begin(kind)])),
    leave: () => placer.stop() || setSelected(undefined),
    remove: removeSelected,
    undo: () => store.undo(),
    redo: () => store.redo(),
    nextRung: () => toRung(nextInWalk(rungSet, rung)),
    rungDown: () => toRung(along(1)),
    rungUp: () => toRung(along(-1)),
    ruler: placer.measure,
    log: () => setLog(!log),
    goTo: () => setGoing(true),
    table: () => setTable(!table),
    walk: asOf === undefined ? () => walkFromHere() : undefined,
  };
  useCommands(commands);
  useDescentOffers({ rungs: rungSet.rungs, marks: onThisRung, lives, commands, toRung, select: setSelected });

  const fileAddress = (format: string) => {
    const { from, to, bottom, top, log: even } = seen.current ?? { from: 0, to: 1, bottom: 0, top: 1, log: false };
    const before = bars?.start ?? 0;
    const view = { from: from + before, to: to + before, bottom, top };
    const query = new URLSearchParams({ format, rung, hours, ...Object.fromEntries(Object.entries(view).map(([name, value]) => [name, String(value)])) });
    if (even) query.set("log", "yes");
    if (asOf !== undefined) query.set("asOf", String(asOf));
    if (shownPlan) query.set("plan", shownPlan);
    return `/descent/${market.id}/picture?${query.toString()}`;
  };

  const walkFromHere = () => void navigate(viewAddress(rung, hours, walkStart()), { preventScrollReset: true });

  /** Walking begins at the bar under the crosshair or, without one, a few bars before the last. */
  const walkStart = () => {
    const series = bars?.series;
    if (!series || series.length === 0) return undefined;
    const index = readout?.bar ? readout.index : Math.max(0, series.length - WALKED_BACK);
    return closeOfBar(series.time[index], timeframe, calendar);
  };

  const go = async (date: string) => {
    const time = Date.parse(`${date}T00:00:00Z`);
    if (Number.isNaN(time)) return;
    await wantSince(time);
    setGoTo({ time });
  };

  const pyramid = useMemo(() => (bars ? buildPyramid(bars.series) : undefined), [bars]);
  const lastTime = bars && bars.series.length > 0 ? bars.series.time[bars.series.length - 1] : undefined;
  const future = useMemo(
    () => (lastTime === undefined ? [] : nextTimes(lastTime, parseTimeframe(rung) ?? ONE_DAY, calendar, FUTURE_BARS)),
    [lastTime, rung, calendar],
  );
  const unfinished = lastTime !== undefined && closeOfBar(lastTime, timeframe, calendar) > clock.now;
  const picture: Picture | undefined = useMemo(() => {
    if (!pyramid || !bars) return undefined;
    const context = { series: bars.series, market, calendar };
    const lived = onThisRung.map((mark) => {
      const shown = dragged?.id === mark.id ? dragged : mark;
      return { mark: shown, life: shown === mark ? (lives.get(mark.id)?.life ?? unborn(mark, context)) : draftLife(shown, context) };
    });
    const plan = plans.find(({ plan: { id } }) => id === shownPlan)?.plan;
    return { pyramid, market, timeframe, calendar, future, marks: lived, scenarios: plan ? [plan] : [], selected, unfinished };
    // `onThisRung` and `timeframe` are made anew each time from `marks` and `rung`.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [pyramid, bars, marks, lives, dragged, plans, shownPlan, selected, future, unfinished, rung, market, calendar]);

  const handlers = {
    onAnchor: placer.add,
    onSelect: setSelected,
    onDrag: (mark: Mark) => setDragged(mark.kind === "zone" ? { ...mark, props: { ...mark.props, own: true } } : mark),
    onDrop: (mark: Mark) => {
      setDragged(undefined);
      store.set(mark.kind === "zone" ? { ...mark, props: { ...mark.props, own: true } } : mark);
    },
    onReadout: setReadout,
    onView: (view: View) => (seen.current = view),
    onEarliest: wantEarlier,
  };
  // While a mark is dragged its rules are checked here, at every move, and the first broken one is named.
  const problem = dragged && bars ? kindOf(dragged).check(dragged, { series: bars.series, market, calendar }).at(0)?.sentence : undefined;
  const close = bars && bars.series.length > 0 ? bars.series.close[bars.series.length - 1] : undefined;
  return (
    <>
      <MarketLine market={market} markets={markets} close={close} rung={rung} bars={bars?.series} marks={onThisRung} placing={placing} begin={begin} timeframe={timeframe} calendar={calendar} now={clock.now} hours={hasOvernight(spec) ? hours : undefined} asOf={asOf} />
      {asOf !== undefined && (
        <WalkLine
          asOf={asOf}
          present={present.now}
          zone={calendar.spec.zone}
          rung={rung}
          step={(direction) => stepFrom(asOf, direction, bars?.series ?? NO_BARS, timeframe, calendar)}
          goTo={(instant) => void navigate(viewAddress(rung, hours, instant !== undefined && instant < present.now ? instant : undefined), { preventScrollReset: true, replace: true })}
        />
      )}
      <Box sx={{ flex: 1, minHeight: 0, display: "flex" }}>
        <RungColumn set={rungSet} sets={rungSets} sketches={sketches} rung={rung} hours={hours} asOf={asOf} marks={marks} />
        <Box sx={{ flex: 1, minWidth: 0, display: "flex", flexDirection: "column" }}>
        <Box sx={{ flex: 1, minHeight: 0, position: "relative" }}>
          {/* The view's words and the read-out have a strip of their own, so that nothing at the top of the plot is covered. */}
          <Box sx={{ position: "absolute", inset: "30px 0 0 0" }}>
          {picture && (
            <PriceChart
              picture={picture}
              subject={`${market.id} ${rung} ${hours}`}
              placing={placer.anchors}
              measured={ruler?.length === 2 ? ruler : undefined}
              log={log}
              goTo={goTo}
              fits={fits}
              handlers={handlers}
              label={`Chart of ${market.name}, ${rungText(rung)}`}
            />
          )}
          </Box>
          <Readout at={readout} placing={placing} ruler={ruler} problem={problem} market={market} series={bars?.series} future={future} marks={picture?.marks ?? []} />
          <ChartTools
            log={log}
            onLog={() => setLog(!log)}
            measuring={ruler !== undefined}
            onRuler={placer.measure}
            onFit={() => setFits(fits + 1)}
            onTable={() => setTable(!table)}
            going={going}
            onGoing={setGoing}
            onGo={(date) => void go(date)}
            onWalk={asOf === undefined && lastTime !== undefined ? walkFromHere : undefined}
            last={new Date(lastTime ?? clock.now).toISOString().slice(0, 10)}
          />
          {bars?.series.length === 0 && (
            <Typography sx={{ position: "absolute", top: "40%", width: "100%", textAlign: "center" }}>
              No stored bars are fine enough for this rung. Choose a higher one, or import finer bars.
            </Typography>
          )}
        </Box>
        {table && bars && <LevelsBelow market={market} series={bars.series} marks={picture?.marks ?? []} selected={selected} onSelect={setSelected} address={fileAddress} onClose={() => setTable(false)} />}
        </Box>
        <Sheet
          market={market}
          rung={rung}
          tradable={tradableRungs(rungSet)}
          now={clock.now}
          marks={dragged ? onThisRung.map((mark) => (mark.id === dragged.id ? dragged : mark)) : onThisRung}
          lives={lives}
          selected={selected}
          onSelect={setSelected}
          store={store}
          save={save}
          canUndo={canUndo}
          canRedo={canRedo}
          plans={plans}
          shownPlan={shownPlan}
          onShowPlan={setShownPlan}
          onPlans={setPlans}
        />
      </Box>
    </>
  );
}

/** How a mark is drawn until its life has been worked out: as it was born. */
function unborn(mark: Mark, context: Parameters<typeof followMark>[1]): Life {
  const kind = kindOf(mark);
  const state = kind.start(mark, context);
  return { ...kind.status(state), state, events: [] };
}

/** While a mark is dragged only recent bars are looked at, so that the hand is never waited for. */
function draftLife(mark: Mark, context: Parameters<typeof followMark>[1]): Life {
  return context.series.length < 30_000 || bornAt(mark) > context.series.time[context.series.length - 30_000]
    ? followMark(mark, context)
    : unborn(mark, context);
}
