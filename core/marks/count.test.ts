import { describe, expect, it } from "vitest";
import { count, countShown, killOf, labelAt, nestedTargets } from "#core/marks/count";
import { waveOf } from "#core/marks/countNode";
import type { CountProps } from "#core/marks/countProps";
import {
  addPivot,
  anchorsOf,
  clearInside,
  cutAfter,
  fillInside,
  labelInside,
  labelledOn,
  nodeAt,
  relabel,
  removePivot,
} from "#core/marks/countTree";
import { STYLES } from "#core/waves/notation";
import { asToday } from "#core/marks/former";
import { followMark } from "#core/marks/follow";
import type { Mark } from "#core/marks/kind";
import { findKind, followedOn, kindOf, readMark } from "#core/marks/registry";
import { days } from "#core/testing/openData";
import { atFinerBars } from "#core/marks/pivotBar";
import { calendar, contextOf, day, live, mark, market, say } from "#core/testing/marks";

type Counted = Mark<CountProps>;
const counted = (prices: number[], props: Record<string, unknown> = {}): Counted =>
  mark(
    "count",
    prices.map((price, i) => [i * 10, price]),
    props,
  ) as unknown as Counted;
const at = (n: number, price: number) => ({ time: day(n), price });
const times = ({ anchors }: Counted) => anchors.map(({ time }) => (time - day(0)) / 86_400_000);

describe("the tree of a count", () => {
  const root = counted([100, 120, 110, 150]);
  it("labels inside labels share their pivots: one point, moved once", () => {
    const inside = labelInside(root, [2], "impulse", [at(22, 120), at(24, 115), at(26, 140), at(28, 133)]);
    expect(times(inside)).toEqual([0, 10, 20, 22, 24, 26, 28, 30]);
    expect(nodeAt(inside, [2])?.pivots).toEqual([2, 3, 4, 5, 6, 7]);
    const moved = { ...inside, anchors: inside.anchors.map((anchor, i) => (i === 7 ? at(30, 155) : anchor)) };
    expect([
      waveOf(moved.anchors, moved.props.root).pivots[3].price,
      waveOf(moved.anchors, moved.props.root).inner[2]?.pivots[5].price,
    ]).toEqual([155, 155]);
    expect(kindOf(inside as unknown as Mark).check(inside as unknown as Mark, contextOf(days()))).toEqual([]);
  });
  it("the wave in progress is labelled from its start on, and goes on turn by turn", () => {
    const begun = labelInside(root, [3], "zigzag", [at(32, 140)]);
    expect(nodeAt(begun, [3])?.pivots).toHaveLength(2);
    const on = addPivot(begun, [3], at(34, 145));
    expect(nodeAt(on, [3])?.pivots).toHaveLength(3);
    expect(addPivot(on, [3], at(30, 1))).toEqual(on);
    expect(times(addPivot(root, [], at(40, 135)))).toEqual([0, 10, 20, 30, 40]);
  });
  it("a turn put in between moves the later labels on, one taken away moves them back; insides before it stay", () => {
    const inside = labelInside(
      labelInside(root, [0], "impulse", [at(2, 106), at(4, 103), at(6, 115), at(8, 112)]),
      [2],
      "impulse",
      [at(22, 120), at(24, 115), at(26, 140), at(28, 133)],
    );
    const more = addPivot(inside, [], at(25, 130));
    expect(more.props.root.pivots.map((pivot) => more.anchors[pivot].price)).toEqual([100, 120, 110, 130, 150]);
    expect(more.props.root.inner.map((child) => child?.pattern)).toEqual([
      "impulse",
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    const less = removePivot(inside, [], 2);
    expect(less.props.root.pivots.map((pivot) => less.anchors[pivot].price)).toEqual([100, 120, 150]);
    expect(less.props.root.inner[0]?.pattern).toBe("impulse");
    expect(removePivot(inside, [], 0)).toEqual(inside);
  });
  it("a picture leaves out archived counts, alternates if that is wished, and finer degrees", () => {
    const as = (role: string) => ({ ...root, props: { ...root.props, role } }) as unknown as Mark;
    expect(["preferred", "alternate", "archived"].map((role) => countShown(as(role)).length)).toEqual([1, 1, 0]);
    expect(countShown(as("alternate"), { degrees: 2, alternates: false })).toEqual([]);
    expect(countShown(as("preferred"), { degrees: 1, alternates: false })[0].props.shown).toBe(1);
  });
  it("degrees are written as the count says", () => {
    const own = counted([100, 120], {
      notation: { Minor: { figures: "roman", letters: "small", around: "brackets" }, Luck: {} },
    });
    expect([labelAt(own.props, "3", 0), labelAt(own.props, "3", 1), own.props.notation]).toEqual([
      "(3)",
      "(III)",
      { Minor: { figures: "roman", letters: "small", around: "brackets" } },
    ]);
    expect(new Set(STYLES.map(({ name }) => name)).size).toBe(STYLES.length);
  });
  it("relabelled, cut, cleared and filled; a pivot that no wave uses goes", () => {
    const inside = labelInside(root, [0], "impulse", [at(2, 106), at(4, 103), at(6, 115), at(8, 112)]);
    expect(relabel(inside, [0], "leadingDiagonal").props.root.inner[0]?.pattern).toBe("leadingDiagonal");
    expect(times(clearInside(inside, [0]))).toEqual(times(root));
    expect(times(cutAfter(inside, [], 1))).toEqual([0, 2, 4, 6, 8, 10]);
    expect(times(cutAfter(inside, [], 0))).toEqual([0]);
    const zigzag = relabel(root, [], "zigzag");
    expect([zigzag.props.root.pattern, zigzag.props.root.pivots.length]).toEqual(["zigzag", 4]);
    const wave = waveOf(inside.anchors, inside.props.root);
    expect(fillInside(root, [0], wave.inner[0]!)).toEqual(inside);
    expect(anchorsOf(wave)).toEqual({ anchors: inside.anchors, root: inside.props.root });
  });
  it.each<[string, unknown]>([
    ["a pivot that is not there", { pattern: "impulse", pivots: [0, 9], inner: [null, null, null, null, null] }],
    ["an unknown pattern", { pattern: "luck", pivots: [0, 1], inner: [] }],
    ["too many pivots", { pattern: "zigzag", pivots: [0, 1, 2, 3, 3], inner: [null, null, null] }],
    [
      "an inside of a wave that has not begun",
      {
        pattern: "zigzag",
        pivots: [0, 1],
        inner: [null, null, { pattern: "impulse", pivots: [1], inner: [null, null, null, null, null] }],
      },
    ],
    ["no tree at all", "root"],
  ])("%s is refused at the border", (_name, tree) => {
    expect(readMark({ ...(root as unknown as Mark), props: { root: tree } })).toMatch(/cannot be read/);
  });
  it("too deep a tree is refused, not followed", () => {
    let tree: unknown = null;
    for (let i = 0; i < 30; i++) tree = { pattern: "impulse", pivots: [0, 1], inner: [tree, null, null, null, null] };
    expect(count.readProps({ root: tree }, 2)).toBeUndefined();
  });
});

describe("the life of a count", () => {
  const bars = (...lows: number[]) =>
    days(...lows.map((low): [number, number, number, number] => [low + 1, low + 2, low, low + 1]));
  const tree = (finished: number[]): Counted =>
    labelInside(
      counted([100, 120, 110]),
      [2],
      "impulse",
      finished.map((price, i) => at(22 + i * 2, price)),
    );
  it("an inner statement dies without the count; the count dies at its own price", () => {
    const one = tree([125, 118]) as unknown as Mark;
    const series = days(
      ...Array.from({ length: 25 }, (): [number, number, number, number] => [119, 121, 118.5, 119]),
      [119, 121, 117, 119],
      [119, 121, 112, 119],
      [112, 113, 109.5, 111],
    );
    const { events, dead } = live(one, series);
    expect(
      events
        .filter(({ event }) => event !== "targetReached")
        .map(({ event, time }) => [event, (time - day(0)) / 86_400_000]),
    ).toEqual([
      ["innerKilled", 25],
      ["killed", 27],
    ]);
    expect(dead).toBe(true);
    expect(say(one, series)).toBe("Intermediate impulse: wave 2 has ended, wave 3 is running; died below 110.00.");
    expect(
      live(one, days(...Array.from({ length: 27 }, (): [number, number, number, number] => [119, 121, 118.5, 119])))
        .status,
    ).toBe("alive");
  });
  it("ended by closes, a wick kills nothing", () => {
    const wick = counted([100, 120, 110], { basis: "close" }) as unknown as Mark;
    const series = days(
      ...Array.from({ length: 21 }, (): [number, number, number, number] => [115, 116, 114, 115]),
      [112, 113, 105, 112],
      [112, 113, 105, 109],
    );
    expect(
      live(wick, series)
        .events.filter(({ event }) => event === "killed")
        .map(({ time }) => time),
    ).toEqual([day(22)]);
  });
  it("targets of every wave in progress are told, the nearest kill first", () => {
    const one = tree([125, 118]);
    expect(new Set(nestedTargets(one).map((target) => target.at.length))).toEqual(new Set([0, 1]));
    expect(killOf(one)?.killPrice).toBe(110);
    expect(
      count
        .prices(one, { status: "", dead: false, events: [], state: { died: [], reached: [] } })
        .filter(({ role }) => role === "kill")
        .map(({ bottom }) => bottom),
    ).toEqual([110, 118]);
  });
  it("labelled on a finer rung it is followed there, from the bar that made its last pivot", () => {
    const weekly: Counted = {
      ...counted([100, 120]),
      rung: "P1W",
      props: { ...counted([100, 120]).props, finest: "P1D" },
      anchors: [at(0, 100), at(7, 120)],
    };
    expect(followedOn(weekly as unknown as Mark)).toBe("P1D");
    // The high of the week came on its fourth day: the days before it, which were below the start, change nothing.
    const series = days(
      ...Array.from({ length: 7 }, (): [number, number, number, number] => [104, 105, 101, 104]),
      [100, 101, 99, 100],
      [100, 101, 99, 100],
      [100, 101, 99, 100],
      [101, 120, 100, 118],
      [118, 119, 110, 111],
      [111, 112, 99.5, 100],
    );
    const life = followMark(weekly as unknown as Mark, { series, market, calendar });
    expect(
      life.events.filter(({ event }) => event === "killed").map(({ time }) => (time - day(0)) / 86_400_000),
    ).toEqual([12]);
  });
  it(
    "opened on a finer rung its turns stand at the very bars that made them, and new ones find their place " +
      "among them",
    () => {
      const weekly: Counted = {
        ...counted([101, 120, 108]),
        rung: "P1W",
        anchors: [at(0, 101), at(7, 120), at(14, 108)],
      };
      // The first week's low came on its third day, the second's high on its fourth.
      const rows = Array.from({ length: 21 }, (_, i): [number, number, number, number] =>
        i === 2
          ? [104, 105, 101, 104]
          : i === 10
            ? [118, 120, 117, 118]
            : i === 16
              ? [110, 111, 108, 110]
              : [112, 113, 110.5, 112],
      );
      const exact = atFinerBars(weekly, days(...rows), { count: 1, unit: "day" }, calendar);
      expect(times(exact)).toEqual([2, 10, 16]);
      const inside = labelledOn(
        labelInside(exact, [0], "impulse", [at(4, 106), at(5, 103), at(8, 115), at(9, 112)]),
        "P1D",
      );
      expect(kindOf(inside as unknown as Mark).check(inside as unknown as Mark, contextOf(days()))).toEqual([]);
      expect([times(inside), inside.props.finest]).toEqual([[2, 4, 5, 8, 9, 10, 16], "P1D"]);
      // What the machine found on the finer rung keeps to the ends of the wave it fills.
      const found = waveOf(inside.anchors, inside.props.root).inner[0]!;
      const filled = fillInside(weekly, [0], found);
      expect(kindOf(filled as unknown as Mark).check(filled as unknown as Mark, contextOf(days())).length).toBe(1);
      expect(fillInside(exact, [0], found).anchors).toEqual(inside.anchors);
      expect(
        atFinerBars(weekly, days(...rows.slice(0, 1)), { count: 1, unit: "day" }, calendar).anchors.slice(1),
      ).toEqual(weekly.anchors.slice(1));
    },
  );
  it("bars never told apart make the same life twice", () =>
    expect(live(tree([125, 118]) as unknown as Mark, bars(118, 117))).toEqual(
      live(tree([125, 118]) as unknown as Mark, bars(118, 117)),
    ));
});

describe("counts of former days", () => {
  it("an impulse of an old edition is read as a count", () => {
    expect(findKind("impulse")?.kind).toBe("count");
    const old = {
      ...(mark("count", [
        [0, 100],
        [1, 120],
        [2, 110],
      ]) as unknown as Mark),
      kind: "impulse",
      props: { degree: "Minor", scale: "log" },
    };
    const { mark: now, life } = asToday({
      mark: old,
      life: {
        status: "dead",
        dead: true,
        events: [],
        state: { reached: [], killed: { time: day(3), statement: "s", rule: "r", price: 110 } },
      },
    });
    expect(now).toMatchObject({
      kind: "count",
      props: { degree: "Minor", scale: "log", root: { pattern: "impulse", pivots: [0, 1, 2] } },
    });
    expect(life.state).toMatchObject({ died: [{ at: [], time: day(3), price: 110 }] });
  });
});
