import Box from "@mui/material/Box";
import { lazy, Suspense, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { useNavigate } from "react-router";
import type { Anchor, Mark } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { hasOvernight, type Hours } from "#core/series/hours";
import { nextInWalk, tradableRungs, type RungSet } from "#core/time/rungs";
import type { Horizons } from "#core/finding/horizon";
import type { View } from "../../../chart/scale.ts";
import type { ChartLayout } from "../../../server/desk/layout.ts";
import { LinkedCursor } from "../../canvas/linkedCursor.ts";
import { useCommands } from "../../parts/keys.ts";
import { useMarketClock, type Clock } from "../../parts/live.ts";
import { Charts } from "./charts/Charts.tsx";
import { ChartMenu, type MenuChoice } from "./charts/ChartMenu.tsx";
import { ChartStrip } from "./charts/ChartStrip.tsx";
import { useDesks, type DeskData } from "./marks/desks.ts";
import { Guide, showGuide } from "./Guide.tsx";
import { countCommands, snapLabel, useCounts, withLabelled } from "./counting/useCounts.ts";
import { KINDS, type Placing } from "./marks/kinds.ts";
import { MarketLine } from "./MarketLine.tsx";
import type { PaneView, Shared } from "./charts/Pane.tsx";
import type { StoredScenarioOnPage } from "./scenarios/ScenarioBuilder.tsx";
import type { Building } from "./scenarios/Scenarios.tsx";
import { OpenedOver, type Open } from "./charts/OpenedOver.tsx";
import { RungColumn } from "./rungs/RungColumn.tsx";
import { Sheet } from "./Sheet.tsx";
import { useMachine } from "./machine/useMachine.ts";
import { useAnew } from "./useAnew.ts";
import { useDescentOffers } from "./machine/useDescentOffers.ts";
import { useMarkCommands } from "./marks/useMarkCommands.ts";
import { MOST, usePanes } from "./charts/usePanes.ts";
import { usePlacing } from "./marks/usePlacing.ts";
import { useSketches } from "./rungs/useSketches.ts";
import { viewAddress, pictureAddress } from "./charts/view.ts";
import { useWalk } from "./past/useWalk.ts";
import { WalkLine } from "./past/WalkLine.tsx";
import { droppedMark, owned, placedMark } from "./marks/workspaceMarks.ts";

/** Loaded when they are first wanted. */
const LevelsBelow = lazy(async () => ({ default: (await import("./charts/LevelsBelow.tsx")).LevelsBelow }));

interface Props {
  account: string;
  desk: DeskData;
  rung: string;
  hours: Hours;
  /** The past instant the desk is put to. */
  asOf: number | undefined;
  layout: ChartLayout;
  rungSet: RungSet;
  rungSets: { id: string; name: string }[];
  horizons: Horizons;
  markets: { id: string; name: string }[];
  scenarios: StoredScenarioOnPage[];
  clock: Clock;
}

interface MenuAt {
  at: { left: number; top: number };
  groups: MenuChoice[][];
}

/** The workspace of one market: rungs, charts and Sheet around one set of marks. */
export function Workspace({
  account,
  desk: data,
  rung,
  hours,
  asOf,
  layout,
  rungSet,
  rungSets,
  horizons: first,
  markets,
  scenarios,
  clock: initial,
}: Props) {
  const navigate = useNavigate();
  const goToView = (next: string, instant: number | undefined, replace = false) =>
    void navigate(viewAddress(next, hours, instant), { preventScrollReset: true, replace });
  const panes = usePanes(layout, rung, rungSet, (next) => goToView(next, asOf));
  const others = useMemo(
    () => [...new Set(panes.panes.map(({ market }) => market).filter((market) => market !== ""))],
    [panes.panes],
  );
  const desks = useDesks(account, data, others);
  const [views, setViews] = useState<ReadonlyMap<number, PaneView>>(new Map());
  const [plans, setScenarios] = useAnew(scenarios);
  const [horizons, setHorizons] = useState(first);
  const [shownScenario, setShownScenario] = useState<string>();
  const [selected, setSelected] = useState<string[]>([]);
  const [dragged, setDragged] = useState<Mark>();
  const [open, setOpen] = useState<Open>();
  const [table, setTable] = useState(false);
  const [menu, setMenu] = useState<MenuAt>();
  const [building, setBuilding] = useState<Building>();
  const [said, setSaid] = useState<string>();
  const [folded, setFolded] = useState(false);
  const [look, setLook] = useState<{
    log: boolean;
    fits: number;
    goTo?: { time: number };
    moment?: number | undefined;
  }>({ log: false, fits: 0 });
  const [cursor] = useState(() => new LinkedCursor());
  /** Where the active chart last said it stands; read when a file of it is asked for. */
  const seen = useRef<View>(undefined);
  const present = useMarketClock(initial);
  const clock = asOf === undefined ? present : { ...present, now: asOf };

  const place = panes.panes[panes.active];
  const view = views.get(place.id);
  const desk = desks.of(place.market) ?? desks.home;
  const { store } = desk;
  const { marks } = useSyncExternalStore(store.subscribe, store.getSnapshot, store.getSnapshot);
  const lives = useSyncExternalStore(desk.lives.subscribe, desk.lives.get, desk.lives.get);
  const sketches = useSketches(desks.home.market.id, rungSet.id, hours, asOf, view?.bars !== undefined);

  const select = (ids: string[], add: boolean) =>
    setSelected(
      add ? [...selected.filter((id) => !ids.includes(id)), ...ids.filter((id) => !selected.includes(id))] : ids,
    );
  const finish = ({ kind, anchors, wave }: Placing, pane: number) => {
    const on = views.get(pane);
    if (!on?.bars) return;
    if (wave) {
      const labelled = withLabelled({ kind, anchors, wave }, on);
      if (!labelled) return;
      on.desk.store.set(labelled);
      setSelected([labelled.id]);
      return;
    }
    const whole = placedMark(kind, anchors, on, on.bars);
    on.desk.store.set(whole);
    setSelected([whole.id]);
  };
  const placer = usePlacing(finish, (placing, anchor, pane) =>
    snapLabel(placing, anchor, views.get(pane), seen.current, marks),
  );
  const begin = (kind: string, first?: { anchor: Anchor; pane: number }) => {
    setSelected([]);
    if (kind === "count") counts.begin(first);
    else placer.begin({ kind }, first);
  };
  const walk = useWalk(view, look.moment, asOf, cursor);
  const marked = useMarkCommands({
    store,
    marks,
    selected,
    view,
    clear: () => setSelected([]),
    onCopy: () => setOpen("copy"),
  });
  const shiftRungs = useMemo(() => Object.values(horizons).flat(), [horizons]);
  const machine = useMachine({
    desk,
    view,
    marks,
    lives,
    rung: place.rung,
    asOf,
    shiftRungs,
    select: (ids) => setSelected(ids),
  });
  const counts = useCounts({
    desk,
    rung: place.rung,
    marks,
    view,
    areas: machine.areas,
    atr: machine.findings?.rungs.find((one) => one.rung === place.rung)?.atr ?? 0,
    begin: placer.begin,
    select: (ids) => setSelected(ids),
    onPlan: (seed) => setBuilding({ seed }),
  });
  const toRung = (next?: string) => next && panes.toRung(next);
  const along = (step: number) => rungSet.rungs[rungSet.rungs.findIndex((one) => one.rung === place.rung) + step]?.rung;
  const go = async (date: string) => {
    const time = Date.parse(`${date}T00:00:00Z`);
    if (Number.isNaN(time)) return;
    await Promise.all([...views.values()].map((one) => one.wantSince(time)));
    setLook((now) => ({ ...now, goTo: { time } }));
  };
  const toggle = (what: Open) => setOpen(open === what ? undefined : what);
  const leave = () => {
    if (placer.stop()) return;
    if (selected.length > 0) setSelected([]);
    else if (look.moment !== undefined) setLook({ ...look, moment: undefined });
    else machine.proposals.close();
  };
  const commands = {
    ...Object.fromEntries(KINDS.map(({ kind }) => [kind, () => begin(kind)])),
    ...marked.commands,
    ...machine.proposals.commands,
    leave,
    ...countCommands(counts, selected.length === 1 ? marks.find(({ id }) => id === selected[0]) : undefined, setSaid),
    bearing: () => toggle("bearing"),
    undo: () => store.undo(),
    redo: () => store.redo(),
    nextRung: () => toRung(nextInWalk(rungSet, place.rung)),
    rungDown: () => toRung(along(1)),
    rungUp: () => toRung(along(-1)),
    ruler: placer.measure,
    log: () => setLook({ ...look, log: !look.log }),
    goTo: () => setOpen("date"),
    table: () => setTable(!table),
    shown: () => toggle("shown"),
    sheet: () => setFolded(!folded),
    addChart: panes.panes.length >= MOST ? undefined : () => panes.add(),
    closeChart: panes.panes.length > 1 ? () => panes.close(panes.active) : undefined,
    nextChart: panes.panes.length > 1 ? () => panes.activate((panes.active + 1) % panes.panes.length) : undefined,
    guide: showGuide,
    walk: asOf === undefined ? () => goToView(place.rung, walk.start()) : undefined,
  };
  useCommands(commands);
  useDescentOffers({
    rungs: rungSet.rungs,
    marks: view?.argued ?? [],
    lives,
    commands,
    toRung,
    select: (id) => setSelected([id]),
  });

  const menuFor = (
    pane: number,
    { anchor, instant, mark }: { anchor: Anchor; instant: number; mark: string | undefined },
  ): MenuChoice[][] => [
    ...(mark ? [marked.menu(selected.includes(mark) ? selected : [mark])] : []),
    KINDS.map(({ kind }) => ({
      name: kindOf({ kind }).title,
      command: kind,
      run: () => begin(kind, { anchor, pane }),
    })),
    [{ name: "Hold this moment on every chart", run: () => setLook({ ...look, moment: instant }) }],
  ];
  const copy = async (market: string, relation: Parameters<typeof marked.copyTo>[1]) => {
    setOpen(undefined);
    setSaid(await marked.copyTo(await desks.open(market), relation));
  };
  const shared: Shared = {
    hours,
    asOf,
    now: clock.now,
    log: look.log,
    goTo: look.goTo,
    moment: look.moment,
    shown: panes.shown,
    cursor,
    dragged,
    plan: plans.find(({ plan: { id } }) => id === shownScenario)?.plan,
    machine: machine.onCharts,
  };
  // While a mark is dragged its rules are checked here, at every move, and the first broken one is named.
  const problem =
    dragged && view?.bars
      ? kindOf(dragged).check(dragged, { series: view.bars.series, market: desk.market, calendar: view.calendar }).at(0)
          ?.sentence
      : undefined;
  return (
    <>
      <MarketLine
        home={desks.home.market}
        markets={markets}
        view={view}
        rung={place.rung}
        readings={machine.findings?.rungs ?? []}
        known={marks}
        horizons={horizons}
        onHorizons={setHorizons}
        placing={placer.placing}
        begin={begin}
        now={clock.now}
        hours={hasOvernight(desk.calendar) ? hours : undefined}
        asOf={asOf}
      />
      <Guide />
      {asOf !== undefined && (
        <WalkLine
          asOf={asOf}
          present={present.now}
          zone={data.calendar.zone}
          rung={place.rung}
          step={walk.step}
          goTo={(instant) => goToView(rung, instant !== undefined && instant < present.now ? instant : undefined, true)}
        />
      )}
      <Box sx={{ flex: 1, minHeight: 0, display: "flex" }}>
        <RungColumn
          set={rungSet}
          sets={rungSets}
          sketches={sketches}
          rung={place.rung}
          hours={hours}
          asOf={asOf}
          marks={marks}
          beside={panes.panes.map((one) => one.rung)}
          onChoose={(next) => place.market !== "" && (panes.toRung(next), true)}
        />
        <Box sx={{ flex: 1, minWidth: 0, display: "flex", flexDirection: "column" }}>
          <ChartStrip
            cursor={cursor}
            placer={placer}
            problem={problem}
            market={desk.market}
            view={view}
            commands={commands}
            log={look.log}
            onFit={() => setLook({ ...look, fits: look.fits + 1 })}
            going={open === "date"}
            onGoing={(going) => setOpen(going ? "date" : undefined)}
            onGo={(date) => void go(date)}
            now={clock.now}
          />
          <Charts
            panes={panes}
            desks={desks}
            shared={shared}
            markets={markets}
            selected={selected}
            placer={placer}
            fits={look.fits}
            onActivate={(pane) => {
              if (pane === panes.active) return;
              setSelected([]);
              panes.activate(pane);
            }}
            onSelect={select}
            onMoment={(moment) => setLook({ ...look, moment })}
            onMenu={(pane, what, at) => setMenu({ at, groups: menuFor(pane, what) })}
            onDrag={(mark) => setDragged(owned(mark))}
            onDrop={(dropped) => {
              setDragged(undefined);
              store.set(...dropped.map((mark) => droppedMark(mark, view)));
            }}
            onView={(now) => (seen.current = now)}
            onChange={(pane, now) => setViews((before) => new Map(before).set(pane, now))}
          />
          {table && view?.bars && (
            <Suspense>
              <LevelsBelow
                market={desk.market}
                series={view.bars.series}
                marks={view.picture?.marks ?? []}
                selected={selected}
                onSelect={(id) => setSelected([id])}
                address={(format) => pictureAddress(view, seen.current, { format, hours, asOf, plan: shownScenario })}
                onClose={() => setTable(false)}
              />
            </Suspense>
          )}
        </Box>
        {view && !folded && (
          <Sheet
            view={view}
            tradable={tradableRungs(rungSet)}
            now={clock.now}
            asOf={asOf}
            dragged={dragged}
            selected={selected}
            onSelect={select}
            said={said}
            onCopy={() => setOpen("copy")}
            bearing={{
              setting: open === "bearing",
              onSetting: (setting) => setOpen(setting ? "bearing" : undefined),
              onSet: marked.setBearing,
            }}
            machine={machine}
            counts={counts}
            labelling={placer.placing?.wave !== undefined && placer.placing.wave.into === undefined}
            seen={() => seen.current}
            log={look.log}
            building={building}
            onBuilding={setBuilding}
            set={rungSet.id}
            plans={desk === desks.home ? plans : undefined}
            shownScenario={shownScenario}
            onShowScenario={setShownScenario}
            onScenarios={setScenarios}
          />
        )}
      </Box>
      {menu && <ChartMenu {...menu} onClose={() => setMenu(undefined)} />}
      <OpenedOver
        open={open}
        shown={panes.shown}
        onShow={panes.show}
        copying={marks.filter(({ id }) => selected.includes(id))}
        desk={desk}
        markets={markets}
        now={clock.now}
        asOf={asOf}
        onCopy={(market, relation) => void copy(market, relation)}
        onClose={() => setOpen(undefined)}
      />
    </>
  );
}
