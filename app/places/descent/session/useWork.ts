import { useMemo, useState, useSyncExternalStore } from "react";
import { useNavigate } from "react-router";
import type { Horizons } from "#core/finding/horizon";
import type { Anchor, Mark } from "#core/marks/kind";
import type { Hours } from "#core/series/hours";
import { nextInWalk, type RungSet } from "#core/time/rungs";
import type { StudiesOfSet } from "../../../../server/desk/studies.ts";
import { useStudies, type Studies } from "../studies/useStudies.ts";
import type { Standing } from "../../../../server/watch/standing.ts";
import type { ChartLayout } from "../../../../server/desk/layout.ts";
import { useCommands } from "../../../parts/keys.ts";
import { focusChart } from "../../../parts/focusChart.ts";
import { useMarketClock, type Clock } from "../../../parts/live.ts";
import type { PaneView } from "../charts/Pane.tsx";
import { MOST, usePanes, type Panes } from "../charts/usePanes.ts";
import { viewAddress } from "../charts/view.ts";
import { countCommands, snapLabel, useCounts, withLabelled, type Counts } from "../counting/useCounts.ts";
import { showGuide } from "../Guide.tsx";
import { useDescentOffers } from "../machine/useDescentOffers.ts";
import { useMachine, type Machine } from "../machine/useMachine.ts";
import { useDesks, type DeskData, type Desks, type MarketDesk } from "../marks/desks.ts";
import { KINDS, type Placing } from "../marks/kinds.ts";
import type { Lives } from "../marks/livesBoard.ts";
import { useMarkCommands } from "../marks/useMarkCommands.ts";
import { usePlacing, type Placer } from "../marks/usePlacing.ts";
import { freshText, placedMark, twinOf } from "../marks/workspaceMarks.ts";
import { useWalk } from "../past/useWalk.ts";
import type { Written } from "#core/written/written";
import { amongOthers, newDraft } from "../scenarios/drafts.ts";
import type { StoredScenarioOnPage } from "../scenarios/Scenarios.tsx";
import { useAnew } from "../useAnew.ts";
import { useFeature } from "./commandRegistry.ts";
import { keptColumns } from "../columns/columnRules.ts";
import { useSession, useSessionState } from "./context.ts";

/** What a market's page is opened with. */
export interface Opened {
  account: string;
  desk: DeskData;
  rung: string;
  hours: Hours;
  /** The past instant the desk is put to. */
  asOf: number | undefined;
  layout: ChartLayout;
  rungSet: RungSet;
  studies: StudiesOfSet;
  rungSets: { id: string; name: string }[];
  horizons: Horizons;
  markets: { id: string; name: string }[];
  scenarios: StoredScenarioOnPage[];
  /** Published scenarios of the market that are not over. */
  standings: readonly Standing[];
  clock: Clock;
}

/** What is worked with: everything that parts of the page share besides the session. */
export interface Work {
  desks: Desks;
  /** The market of the chart that is worked on, that chart, and all that is marked on it. */
  desk: MarketDesk;
  view: PaneView | undefined;
  marks: readonly Mark[];
  lives: Lives;
  rung: string;
  rungSet: RungSet;
  studies: Studies;
  hours: Hours;
  asOf: number | undefined;
  /** The moment the desk stands at: the market's clock, or one in the past; and the clock itself. */
  now: number;
  present: number;
  markets: { id: string; name: string }[];
  panes: Panes;
  placer: Placer;
  machine: Machine;
  counts: Counts;
  marked: ReturnType<typeof useMarkCommands>;
  walk: ReturnType<typeof useWalk>;
  horizons: Horizons;
  setHorizons(horizons: Horizons): void;
  /** Scenarios of the market that is open. */
  scenarios: StoredScenarioOnPage[];
  setScenarios(scenarios: StoredScenarioOnPage[]): void;
  standings: readonly Standing[];
  /** Begins to write a scenario. */
  write(draft: Written): void;
  /** Begins to place a kind of mark; from the menu on a chart its first anchor is known. */
  begin(kind: string, first?: { anchor: Anchor; pane: number }, props?: Record<string, unknown>): void;
  /** Puts the page to a rung and a moment. */
  goToView(rung: string, instant: number | undefined, replace?: boolean): void;
  goToDate(date: string): Promise<void>;
}

/** Puts together what a market's page works with, and what can be done on it. */
export function useWork({ account, desk: data, rung, hours, asOf, layout, rungSet, markets, ...opened }: Opened): Work {
  const session = useSession();
  const { selected, views, look } = useSessionState((state) => state);
  const navigate = useNavigate();
  const goToView = (next: string, instant: number | undefined, replace = false) =>
    void navigate(viewAddress(next, hours, instant), { preventScrollReset: true, replace });
  const panes = usePanes(layout, rung, rungSet, (next) => goToView(next, asOf));
  const others = useMemo(
    () => [...new Set(panes.panes.map(({ market }) => market).filter((market) => market !== ""))],
    [panes.panes],
  );
  const desks = useDesks(account, data, others);
  const [scenarios, setScenarios] = useAnew(opened.scenarios);
  const studies = useStudies(rungSet.id, opened.studies);
  const [horizons, setHorizons] = useState(opened.horizons);
  const clock = useMarketClock(opened.clock);
  const place = panes.panes[panes.active];
  const view = views.get(place.id);
  const desk = desks.of(place.market) ?? desks.home;
  const { store } = desk;
  const { marks } = useSyncExternalStore(store.subscribe, store.getSnapshot, store.getSnapshot);
  const lives = useSyncExternalStore(desk.lives.subscribe, desk.lives.get, desk.lives.get);
  const select = (ids: readonly string[]) => session.select(ids);

  const finish = ({ kind, anchors, wave, props }: Placing, pane: number) => {
    const on = views.get(pane);
    if (!on?.bars) return;
    const placed = wave
      ? withLabelled({ kind, anchors, wave }, on)
      : placedMark(kind, anchors, on, on.bars, props ?? {});
    if (!placed) return;
    const twin = twinOf(placed, marks);
    if (!twin) on.desk.store.set(placed);
    session.set({ said: twin ? "This very mark stands there already: it is chosen." : freshText(placed, on, on.bars) });
    select([(twin ?? placed).id]);
  };
  const placer = usePlacing(finish, (placing, anchor, pane) =>
    snapLabel(placing, anchor, views.get(pane), session.seen, marks),
  );
  const begin: Work["begin"] = (kind, first, props) => {
    select([]);
    session.set({ said: undefined });
    if (kind === "count") counts.begin(first);
    else placer.begin({ kind, props }, first);
  };
  /** By keys its anchors are set on the chart by keys too: that is where they go. */
  const beginByKey = (kind: string) => {
    begin(kind);
    focusChart();
  };
  const write = (draft: Written) => {
    const others = scenarios.map(({ scenario }) => scenario);
    session.set({ folded: false, building: { draft: amongOthers(draft, others) } });
  };
  /** One that is being written stays: it comes into sight. */
  const beginScenario = () => {
    if (session.get().building) session.set({ folded: false });
    else write(newDraft(asOf ?? clock.now));
  };
  const walk = useWalk(view, look.moment, session.cursor);
  const marked = useMarkCommands({ store, marks, selected, view, session });
  const shiftRungs = useMemo(() => Object.values(horizons).flat(), [horizons]);
  const machine = useMachine({ desk, view, marks, lives, rung: place.rung, asOf, shiftRungs, select });
  const counts = useCounts({
    desk,
    rung: place.rung,
    marks,
    view,
    areas: machine.areas,
    atr: machine.findings?.rungs.find((one) => one.rung === place.rung)?.atr ?? 0,
    begin: placer.begin,
    select,
    now: asOf ?? clock.now,
    onWriteScenario: write,
  });
  const { commands } = session;
  useFeature(commands, "proposals", machine.proposals.commands);
  const chosen = selected.length === 1 ? marks.find(({ id }) => id === selected[0]) : undefined;
  useFeature(
    commands,
    "counting",
    countCommands(counts, chosen, (said) => session.set({ said })),
  );
  useFeature(commands, "placing", {
    ...Object.fromEntries(KINDS.map(({ kind }) => [kind, () => beginByKey(kind)])),
    ruler() {
      placer.measure();
      focusChart();
    },
    undo: () => store.undo(),
    redo: () => store.redo(),
  });
  useFeature(commands, "session", {
    leave() {
      if (placer.stop()) return;
      if (selected.length > 0) select([]);
      else if (look.moment !== undefined) session.look({ moment: undefined });
      else machine.proposals.close();
    },
    bearing: () => session.toggle("bearing"),
    study: () => session.set({ folded: false, building: undefined, open: "study" }),
    log: () => session.look({ log: !look.log }),
    columns: () => session.look({ columns: look.columns ? undefined : keptColumns() }),
    goTo: () => session.set({ open: "date" }),
    table: () => session.set({ table: !session.get().table }),
    shown: () => session.toggle("shown"),
    sheet: () => session.set({ folded: !session.get().folded }),
    writeScenario: desk === desks.home ? beginScenario : undefined,
    guide: showGuide,
    walk: asOf === undefined && view?.bars ? () => goToView(place.rung, walk.start()) : undefined,
  });
  useRungCommands(panes, rungSet);
  useCommands(() => commands.all());
  useDescentOffers({ rungs: rungSet.rungs, marks: view?.argued ?? [], lives, commands, panes, select });
  return {
    desks,
    desk,
    view,
    marks,
    lives,
    rung: place.rung,
    rungSet,
    studies,
    hours,
    asOf,
    now: asOf ?? clock.now,
    present: clock.now,
    markets,
    panes,
    placer,
    machine,
    counts,
    marked,
    walk,
    horizons,
    setHorizons,
    scenarios,
    setScenarios,
    standings: opened.standings,
    write,
    begin,
    goToView,
    async goToDate(date) {
      const time = Date.parse(`${date}T00:00:00Z`);
      if (Number.isNaN(time)) return;
      await Promise.all([...views.values()].map((one) => one.wantSince(time)));
      session.look({ goTo: { time } });
    },
  };
}

/** From rung to rung, and from chart to chart. */
function useRungCommands(panes: Panes, set: RungSet): void {
  const { rung } = panes.panes[panes.active];
  const several = panes.panes.length > 1;
  const along = (step: number) => set.rungs[set.rungs.findIndex((one) => one.rung === rung) + step]?.rung;
  const to = (next: string | undefined) => () => next && panes.toRung(next);
  useFeature(useSession().commands, "rungs", {
    nextRung: to(nextInWalk(set, rung)),
    rungDown: to(along(1)),
    rungUp: to(along(-1)),
    addChart: panes.panes.length < MOST ? () => panes.add() : undefined,
    closeChart: several ? () => panes.close(panes.active) : undefined,
    nextChart: several ? () => panes.activate((panes.active + 1) % panes.panes.length) : undefined,
  });
}
