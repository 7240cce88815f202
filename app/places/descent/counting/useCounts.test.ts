import { describe, expect, it } from "vitest";
import type { CountProps } from "#core/marks/countProps";
import type { Mark } from "#core/marks/kind";
import { days } from "#core/testing/openData";
import { calendar, day, mark, market } from "#core/testing/marks";
import { PATTERNS } from "#core/waves/patterns";
import type { MarketDesk } from "../marks/desks.ts";
import { mayEndHere, mostAnchors, type Placing } from "../marks/kinds.ts";
import { MarkStore } from "../marks/markStore.ts";
import type { PaneView } from "../charts/Pane.tsx";
import {
  asCount,
  countCommands,
  openOf,
  snapLabel,
  usualDegree,
  withLabelled,
  type Counts,
  type Counted,
} from "./useCounts.ts";
import { insideOf } from "./useMachineCounts.ts";

const rows = Array.from({ length: 30 }, (_, i): [number, number, number, number] => {
  const middle = [100, 120, 110, 150][Math.floor(i / 8)] + (i % 8) * ([2.5, -1.25, 5, -2][Math.floor(i / 8)] ?? 0);
  return [middle, middle + 1, middle - 1, middle];
});
const series = days(...rows);
const counted = (prices: number[], props: Record<string, unknown> = {}): Mark =>
  mark(
    "count",
    prices.map((price, i) => [i * 8, price]),
    props,
  );

function viewOf(marks: Mark[], rung = "P1D"): PaneView {
  const desk = { market, store: new MarkStore("m", { marks, marked: 0 }) } as unknown as MarketDesk;
  return { desk, rung, calendar, timeframe: { count: 1, unit: "day" }, bars: { series } } as unknown as PaneView;
}
const placing = (
  into: NonNullable<Placing["wave"]>["into"],
  anchors: Placing["anchors"],
  pattern: "impulse" | "zigzag" = "impulse",
): Placing & { wave: NonNullable<Placing["wave"]> } => ({
  kind: "count",
  anchors,
  wave: { pattern, degree: "Minor", labels: PATTERNS[pattern].labels, open: true, ...(into ? { into } : {}) },
});
const propsOf = (one: Mark | undefined) => one?.props as unknown as CountProps;

describe("labelling by hand", () => {
  it("a new count has its degree and pattern, and is taken as usual otherwise", () => {
    const made = withLabelled(
      placing(
        undefined,
        [
          { time: day(0), price: 99 },
          { time: day(8), price: 121 },
        ],
        "zigzag",
      ),
      viewOf([]),
    );
    expect(made).toMatchObject({ kind: "count", rung: "P1D", market: "m" });
    expect(propsOf(made)).toMatchObject({
      degree: "Minor",
      scale: "arithmetic",
      basis: "wick",
      role: "preferred",
      shown: 3,
      root: { pattern: "zigzag", pivots: [0, 1] },
    });
  });
  it("the inside and the next turn go into the count they belong to; one that is gone takes none", () => {
    const one = counted([99, 121, 109]);
    const inside = withLabelled(
      placing({ mark: one.id, at: [2], way: "inside" }, [{ time: day(18), price: 118 }]),
      viewOf([one]),
    );
    expect(propsOf(inside).root.inner[2]).toMatchObject({ pattern: "impulse", pivots: [2, 3] });
    const next = withLabelled(
      placing({ mark: one.id, at: [], way: "next" }, [{ time: day(24), price: 151 }]),
      viewOf([one]),
    );
    expect(propsOf(next).root.pivots).toHaveLength(4);
    expect(
      withLabelled(placing({ mark: "gone", at: [], way: "next" }, [{ time: day(24), price: 151 }]), viewOf([one])),
    ).toBeUndefined();
  });
  it("a click means the swing near it, between the ends of the wave that is opened", () => {
    const one = counted([99, 121, 109]);
    const view = viewOf([one]);
    expect(snapLabel(placing(undefined, []), { time: day(9), price: 125 }, view, undefined, [one]).price).toBe(
      Math.max(...rows.slice(4, 13).map(([, high]) => high)),
    );
    const within = snapLabel(
      placing({ mark: one.id, at: [0], way: "inside" }, []),
      { time: day(30), price: 140 },
      view,
      undefined,
      [one],
    );
    expect(within.time).toBeLessThan(day(8));
    expect(snapLabel({ kind: "level", anchors: [] }, { time: 5, price: 5 }, view, undefined, [])).toEqual({
      time: 5,
      price: 5,
    });
  });
  it("what is labelled may end early only where a wave is in progress", () => {
    const anchors = [
      { time: 0, price: 1 },
      { time: 1, price: 2 },
    ];
    expect(mayEndHere(placing(undefined, anchors))).toBe(true);
    expect(mayEndHere(placing(undefined, anchors.slice(0, 1)))).toBe(false);
    expect(
      mayEndHere({ ...placing(undefined, anchors), wave: { ...placing(undefined, anchors).wave, open: false } }),
    ).toBe(false);
    expect(mostAnchors(placing(undefined, []))).toBe(5);
  });
});

describe("keys of the chosen count", () => {
  const one = asCount(counted([99, 121, 109])) as Counted;
  it("go to the finest wave in progress, fork, promote, make a scenario; without one only the machine is asked", () => {
    const done: string[] = [];
    const counts = {
      next: (_: Counted, at: readonly number[]) => done.push(`next ${at.join()}`),
      fork: () => done.push("fork"),
      promote: () => done.push("promote"),
      toScenario: () => (done.push("scenario"), "no trade"),
      askMachine: () => done.push("machine"),
    } as unknown as Counts;
    const inside = {
      ...one,
      props: {
        ...one.props,
        root: {
          pattern: "impulse" as const,
          pivots: [0, 1, 2],
          inner: [
            null,
            null,
            { pattern: "impulse" as const, pivots: [2], inner: [null, null, null, null, null] },
            null,
            null,
          ],
        },
      },
    };
    expect(openOf(inside)).toEqual([2]);
    expect(openOf(one)).toEqual([]);
    const said: (string | undefined)[] = [];
    for (const run of Object.values(
      countCommands(counts, inside as unknown as Mark, (sentence) => said.push(sentence)),
    ))
      run?.();
    expect(done).toEqual(["next 2", "fork", "promote", "scenario", "machine"]);
    expect(said).toEqual(["no trade"]);
    expect(
      Object.entries(countCommands(counts, undefined, () => undefined))
        .filter(([, run]) => run)
        .map(([id]) => id),
    ).toEqual(["countMachine"]);
  });
});

describe("where the machine is asked", () => {
  it("inside a finished wave from its start to its end, for what may stand there; in progress to the last bar", () => {
    const one = asCount(counted([rows[0][2], rows[8][1], rows[16][2]])) as Counted;
    const finished = insideOf(one, [0], series);
    expect([finished?.series.length, finished?.options.ended, finished?.options.ends]).toEqual([
      9,
      true,
      { from: rows[0][2], to: rows[8][1] },
    ]);
    expect(finished?.options.patterns).toEqual(PATTERNS.impulse.children[0]);
    const open = insideOf(one, [2], series);
    expect([open?.series.length, open?.options.ended]).toEqual([14, false]);
    expect(insideOf(one, [7, 1], series)).toBeUndefined();
  });
  it("degrees fall from rung to rung", () =>
    expect(["P1Y", "P3M", "P1M", "P1W", "P1D", "PT4H", "PT1H", "PT1M"].map(usualDegree)).toEqual([
      "Supercycle",
      "Cycle",
      "Primary",
      "Intermediate",
      "Minor",
      "Minute",
      "Minuette",
      "Subminuette",
    ]));
});
