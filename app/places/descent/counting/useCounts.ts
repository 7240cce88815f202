import { useState } from "react";
import type { Area } from "#core/areas/areas";
import { count, degreeAt } from "#core/marks/count";
import { wholeNode } from "#core/marks/countNode";
import type { CountProps } from "#core/marks/countProps";
import { addPivot, cutAfter, labelInside, labelledOn, nodeAt } from "#core/marks/countTree";
import type { Anchor, Mark } from "#core/marks/kind";
import { atFinerBars } from "#core/marks/pivotBar";
import { lengthOf } from "#core/marks/shown";
import { pathAnchors, scenarioFromCount } from "#core/scenarios/fromCount";
import type { Degree } from "#core/waves/degrees";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import { snapPivot } from "#core/waves/snapPivot";
import { toTick } from "#core/series/tick";
import type { View } from "../../../../chart/scale.ts";
import type { MarketDesk } from "../marks/desks.ts";
import type { PlacedWave, Placing } from "../marks/kinds.ts";
import type { PaneView } from "../charts/Pane.tsx";
import type { Written } from "#core/written/written";
import { draftFromCount } from "../scenarios/drafts.ts";
import { keptNotation } from "./keptNotation.ts";

export type Counted = Mark<CountProps>;

export const asCount = (mark: Mark | undefined): Counted | undefined =>
  mark?.kind === "count" ? (mark as unknown as Counted) : undefined;
const asMark = (mark: Counted): Mark => mark as unknown as Mark;

/** What is labelled next, when a new count is begun. */
export interface CountChoice {
  pattern: Pattern;
  degree: Degree;
}

/** Where the machine is asked: the part of the market in view, or the inside of a wave. */
export type MachineAt = { mark?: string; at?: readonly number[] } | undefined;

export interface Counts {
  choice: CountChoice;
  choose(choice: Partial<CountChoice>): void;
  machineAt: MachineAt;
  askMachine(at: MachineAt): void;
  /** A count that is looked at before it is taken: drawn on the chart, kept nowhere. */
  looked: Mark | undefined;
  look(mark: Mark | undefined): void;
  /** Begins to label a new count. */
  begin(first?: { anchor: Anchor; pane: number }, as?: CountChoice): void;
  labelInside(mark: Counted, at: readonly number[], pattern: Pattern): void;
  /** Begins to label the next turn of the wave in progress of a wave. */
  next(mark: Counted, at: readonly number[]): void;
  /** An alternate: the same count, or as it was up to a pivot of a wave. */
  fork(mark: Counted, at?: readonly number[], last?: number): void;
  promote(mark: Counted): void;
  change(mark: Counted): void;
  /** Begins a scenario; a sentence where the count asks for none. */
  toScenario(mark: Counted): string | undefined;
  /** A set from the preferred count and its alternates: scenarios with the counts' roles and weights. */
  toSet(alive: readonly Counted[]): Written[];
}

/** The degree waves of a rung are usually labelled at (common practice, no source); the analyst chooses another. */
export function usualDegree(rung: string): Degree {
  const days = lengthOf(rung) / 86_400_000;
  const steps: [number, Degree][] = [
    [360, "Supercycle"],
    [80, "Cycle"],
    [25, "Primary"],
    [6, "Intermediate"],
    [0.9, "Minor"],
    [0.15, "Minute"],
    [0.03, "Minuette"],
  ];
  return steps.find(([least]) => days >= least)?.[1] ?? "Subminuette";
}

interface Work {
  desk: MarketDesk;
  rung: string;
  marks: readonly Mark[];
  view: PaneView | undefined;
  areas: readonly Area[];
  atr: number;
  begin(what: Pick<Placing, "kind" | "wave">, first?: { anchor: Anchor; pane: number }): void;
  select(ids: string[]): void;
  /** The moment the desk stands at. */
  now: number;
  onWriteScenario(draft: Written): void;
}

/** What is done with counts: labelling by hand, forks, promotion, the machine, the way to a scenario. */
export function useCounts({ desk, rung, marks, view, areas, atr, begin, select, now, onWriteScenario }: Work): Counts {
  const { store, market } = desk;
  const [chosen, setChosen] = useState<Partial<CountChoice> & { rung?: string }>({});
  const [machineAt, askMachine] = useState<MachineAt>();
  const [looked, look] = useState<Mark>();
  const choice: CountChoice = {
    pattern: chosen.pattern ?? "impulse",
    degree: (chosen.rung === rung ? chosen.degree : undefined) ?? usualDegree(rung),
  };
  const counts = () => marks.flatMap((mark) => asCount(mark) ?? []);
  return {
    choice,
    choose: (change) => setChosen({ ...chosen, ...change, ...(change.degree ? { rung } : {}) }),
    machineAt,
    askMachine,
    looked,
    look,
    begin: (first, as = choice) =>
      begin({ kind: "count", wave: { ...as, labels: ["start", ...PATTERNS[as.pattern].labels], open: true } }, first),
    labelInside(mark, at, pattern) {
      const parent = nodeAt(mark, at.slice(0, -1));
      const finished = parent !== undefined && at[at.length - 1] + 1 < parent.pivots.length;
      const { labels } = PATTERNS[pattern];
      begin({
        kind: "count",
        wave: {
          pattern,
          degree: degreeAt(mark.props, at.length),
          into: { mark: mark.id, at, way: "inside" },
          labels: finished ? labels.slice(0, -1) : labels,
          open: !finished,
        },
      });
    },
    next(mark, at) {
      const node = nodeAt(mark, at);
      const label = node && PATTERNS[node.pattern].labels[node.pivots.length - 1];
      if (node && label)
        begin({
          kind: "count",
          wave: {
            pattern: node.pattern,
            degree: degreeAt(mark.props, at.length),
            into: { mark: mark.id, at, way: "next" },
            labels: [label],
            open: false,
          },
        });
    },
    fork(mark, at = [], last) {
      const copy: Counted = {
        ...mark,
        id: crypto.randomUUID(),
        version: 0,
        props: { ...mark.props, role: "alternate", weight: 0 },
      };
      const forked = last === undefined ? copy : cutAfter(copy, at, last);
      store.set(asMark(forked));
      select([forked.id]);
    },
    promote(mark) {
      // One preferred count a market: the one before becomes an alternate in the same step.
      const before = counts().filter(
        ({ id, props }) => id !== mark.id && props.role === "preferred" && props.degree === mark.props.degree,
      );
      store.set(
        ...[
          { ...mark, props: { ...mark.props, role: "preferred" as const } },
          ...before.map((one) => ({ ...one, props: { ...one.props, role: "alternate" as const } })),
        ].map(asMark),
      );
    },
    change: (mark) => store.set(asMark(mark)),
    toSet(alive) {
      const close = view?.bars?.series.close.at(-1);
      if (close === undefined) return [];
      return alive.flatMap((mark) => {
        const asks = scenarioFromCount(mark, close, atr, areas);
        if (!asks) return [];
        const draft = draftFromCount(asks, mark.id, { rung, now }, market, mark.props.role !== "preferred");
        return [{ ...draft, weight: Math.round(mark.props.weight) }];
      });
    },
    toScenario(mark) {
      const series = view?.bars?.series;
      if (!series || series.length === 0) return "The bars are still on their way.";
      const last = series.length - 1;
      const scenario = scenarioFromCount(mark, series.close[last], atr, areas);
      if (!scenario) return "This count asks for no trade: it is complete, or no price behind it would end it.";
      onWriteScenario(draftFromCount(scenario, mark.id, { rung, now }, market, mark.props.role === "alternate"));
      const anchors = pathAnchors(
        scenario.path,
        { time: series.time[last], price: series.close[last] },
        view?.picture?.future ?? [],
      ).map(({ time, price }) => ({ time, price: toTick(price, market.tick, market.decimals) }));
      if (anchors.length > 1)
        store.set({
          id: crypto.randomUUID(),
          kind: "path",
          market: market.id,
          rung,
          anchors,
          props: { label: scenario.title.slice(0, 60) },
          note: "",
          author: "",
          version: 0,
        });
      return undefined;
    },
  };
}

/** A new count; what is not said of how it is taken is as usual. */
export function freshCount(market: string, rung: string, anchors: Anchor[], said: Partial<CountProps>): Mark {
  const props: Record<string, unknown> = {
    ...(count.readProps({ notation: keptNotation(), ...said }, anchors.length) ?? said),
  };
  return { id: crypto.randomUUID(), kind: "count", market, rung, anchors, props, note: "", author: "", version: 0 };
}

/** The count with what was labelled on a chart: a new one, the inside of a wave, or one turn more. */
export function withLabelled(
  { wave, anchors }: Placing & { wave: PlacedWave },
  { desk, rung, bars, timeframe, calendar }: PaneView,
): Mark | undefined {
  const market = desk.market.id;
  const { pattern, degree, into } = wave;
  if (!into) {
    return freshCount(market, rung, anchors, { degree, root: wholeNode(pattern, anchors.length) });
  }
  const held = asCount(desk.store.getSnapshot().marks.find(({ id }) => id === into.mark));
  if (!held) return undefined;
  // On a finer rung the turns that are there already stand at its very bars, so that new ones find their place among
  // them.
  const mark = bars ? atFinerBars(held, bars.series, timeframe, calendar) : held;
  return asMark(
    labelledOn(
      into.way === "next" ? addPivot(mark, into.at, anchors[0]) : labelInside(mark, into.at, pattern, anchors),
      rung,
    ),
  );
}

/** Of a count, the finest wave in progress that is said: where the next pivot belongs. */
export function openOf({ props }: Counted): readonly number[] {
  const at: number[] = [];
  let node = props.root;
  for (;;) {
    const running = node.pivots.length - 1;
    const inner = running < PATTERNS[node.pattern].labels.length ? node.inner[running] : null;
    if (!inner || inner.pivots.length > PATTERNS[inner.pattern].labels.length) return at;
    at.push(running);
    node = inner;
  }
}

/** What keys do with the count that is chosen; without one only the machine can be asked. */
export function countCommands(
  counts: Counts,
  chosen: Mark | undefined,
  say: (sentence: string | undefined) => void,
): Record<string, (() => void) | undefined> {
  const mark = asCount(chosen);
  return {
    addPivot: mark && (() => counts.next(mark, openOf(mark))),
    forkCount: mark && (() => counts.fork(mark)),
    promoteCount: mark && (() => counts.promote(mark)),
    scenarioFromCount: mark && (() => say(counts.toScenario(mark))),
    countMachine: () => counts.askMachine(mark ? { mark: mark.id, at: [] } : {}),
  };
}

/** The swing a click means while waves are labelled. */
export function snapLabel(
  { wave, anchors }: Placing,
  click: Anchor,
  view: PaneView | undefined,
  seen: View | undefined,
  marks: readonly Mark[],
): Anchor {
  const series = view?.bars?.series;
  if (!wave || !series) return click;
  const into = wave.into && asCount(marks.find(({ id }) => id === wave.into?.mark));
  const exact = into && atFinerBars(into, series, view.timeframe, view.calendar);
  const { start, end } = exact && wave.into ? endsOf(exact, wave.into) : {};
  const reach = seen ? Math.max(2, Math.round((seen.to - seen.from) * REACH)) : 3;
  // A turn put in before the last one is taken for the nearer extreme of its bar.
  const before = anchors.at(-1) ?? (start && click.time > start.time ? start : undefined);
  return snapPivot(series, click, before, reach, end?.time);
}

/** A click means a swing within this share of the width. */
const REACH = 0.012;

/**
 * What a turn to be labelled lies between: the ends of the wave that is opened; of the next turn only what lies before.
 */
function endsOf(
  mark: Counted,
  { at, way }: { at: readonly number[]; way: "inside" | "next" },
): { start?: Anchor | undefined; end?: Anchor | undefined } {
  const anchor = (pivot: number | undefined) => (pivot === undefined ? undefined : mark.anchors[pivot]);
  if (way === "next") return { start: anchor(nodeAt(mark, at)?.pivots.at(-1)) };
  const pivots = nodeAt(mark, at.slice(0, -1))?.pivots ?? [];
  const wave = at[at.length - 1];
  return { start: anchor(pivots[wave]), end: anchor(pivots[wave + 1]) };
}
