import { describe, expect, it } from "vitest";
import { bearingsOf } from "#core/marks/bearing";
import { problemsOf } from "#core/marks/check";
import { bornAt, kindOf, readMark } from "#core/marks/registry";
import { sayEvent } from "#core/marks/sayEvent";
import { contextOf, day, live, mark, say } from "#core/testing/marks";
import { days } from "#core/testing/openData";

describe("a channel", () => {
  const start: [number, number, number, number][] = [
    [100, 101, 100, 100.5],
    [102, 105, 101, 103],
    [103, 104, 102, 103],
  ];
  const line = mark("channel", [
    [0, 100],
    [2, 102],
    [1, 105],
  ]);
  it("runs parallel to its base line through the third anchor, straight in bars", () => {
    const { prices } = kindOf(line);
    const bands = prices(line, live(line, days(...start, [104, 105, 103.5, 104])));
    // A bar on the base line is worth one; the parallel lies 4 above (105 less the 101 of its bar).
    expect(bands.map(({ top, role }) => [top, role])).toEqual([
      [103, "support"],
      [107, "resistance"],
    ]);
  });
  it("is touched by wicks at either line and broken by a close beyond one", () => {
    const series = days(
      ...start,
      [105, 106, 104, 105],
      [105, 106, 103.9, 106],
      [107, 109.5, 106, 107],
      [107, 107, 104, 105],
      [105, 106, 104, 104.5],
    );
    const { events, status, dead } = live(line, series);
    expect(events.map((event) => [event.event, (event.time - day(0)) / 86_400_000, sayEvent(line, event)])).toEqual([
      ["touched", 4, "Touch 1, lower line."],
      ["touched", 5, "Touch 2, upper line."],
      ["broken", 6, "Closed below it."],
    ]);
    expect([status, dead, say(line, series)]).toEqual([
      "broken below",
      true,
      "Rising channel, broken below, 2 touches since.",
    ]);
  });
  it("the parallel may be the lower of the two", () => {
    const below = mark("channel", [
      [0, 105],
      [2, 107],
      [1, 102],
    ]);
    expect(say(below, days(...start))).toBe("Rising channel, 103.00 to 107.00.");
  });
});

describe("a future path", () => {
  const way = mark(
    "path",
    [
      [0, 100],
      [5, 110],
      [9, 104],
    ],
    { label: "to the shelf" },
  );
  it("is known from its first point on, though its turns lie ahead", () => {
    expect(bornAt(way)).toBe(day(0));
    expect(bornAt(mark("level", [[3, 1]]))).toBe(day(3));
  });
  it("has its turns reached one after the other, whenever that is", () => {
    const first = days([100, 101, 99, 100], [100, 105, 100, 104], [104, 111, 103, 110]);
    expect(say(way, first)).toBe("to the shelf to 104.00.");
    expect(live(way, first).status).toBe("1 turn reached");
    const all = days([100, 101, 99, 100], [100, 111, 100, 104], [104, 105, 104, 104]);
    expect(live(way, all).events.map((event) => sayEvent(way, event))).toEqual([
      "Turn 1 of 2 reached.",
      "Turn 2 of 2 reached.",
    ]);
    expect(say(way, all)).toBe("to the shelf: every turn was reached.");
  });
  it("a bar that holds two turns reaches one of them: their order is not known", () => {
    expect(live(way, days([100, 101, 99, 100], [100, 120, 100, 118])).events).toHaveLength(1);
  });
  it("whose turns go back in time is told so", () => {
    const wrong = mark("path", [
      [0, 100],
      [5, 110],
      [5, 104],
    ]);
    expect(kindOf(wrong).check(wrong, contextOf(days()))).toEqual([
      { sentence: "Each turn of a path comes after the one before.", anchor: 2 },
    ]);
  });
});

describe("a fitted level", () => {
  const bars: [number, number, number, number][] = Array.from({ length: 40 }, (_, i) =>
    i % 5 === 0 ? [103, 104, 100, 103] : [103, 104, 101.2 + i * 0.045, 103],
  );
  it("is put where the wicks end, and says how many", () => {
    const rough = mark("fittedLevel", [
      [35, 100.6],
      [0, 100.4],
    ]);
    const whole = kindOf(rough).complete!(rough, contextOf(days(...bars)));
    expect(whole.anchors).toEqual([
      { time: day(0), price: 100 },
      { time: day(35), price: 100 },
    ]);
    expect(say(whole, days(...bars))).toBe("Fitted level 100.00 by 8 wicks, 0 closes through; fresh since.");
    expect(kindOf(whole).check(whole, contextOf(days(...bars)))).toEqual([]);
  });
  it("stays at the rough price when nothing ends near, and says that", () => {
    const far = mark("fittedLevel", [
      [0, 50],
      [35, 50],
    ]);
    expect(kindOf(far).complete!(far, contextOf(days(...bars)))).toBe(far);
    expect(kindOf(far).check(far, contextOf(days(...bars)))).toEqual([
      { sentence: "Fewer than two wicks end at this price within the window." },
    ]);
  });
  it("is broken by a close after its window", () => {
    const level = mark(
      "fittedLevel",
      [
        [0, 100],
        [39, 100],
      ],
      { touches: 8, through: 0 },
    );
    expect(live(level, days(...bars, [103, 103, 98, 99])).status).toBe("broken");
  });
});

describe("a mark whose bar is not there", () => {
  const series = days([10, 12, 9, 11], [11, 13, 10, 12], [12, 14, 11, 13]);
  it("says so at the anchor and is followed all the same; one that lies ahead has no bar yet", () => {
    const line = {
      ...mark("trendLine", [
        [0, 9],
        [2, 11],
      ]),
    };
    expect(problemsOf(line, contextOf(series))).toEqual([]);
    // A restatement takes the middle day away; the line's second anchor was typed onto it.
    const restated = { ...line, anchors: [line.anchors[0], { time: day(1), price: 10 }] };
    const without = days([10, 12, 9, 11], [11, 13, 10, 12]);
    without.time[1] = day(2);
    expect(problemsOf(restated, contextOf(without))).toEqual([
      { sentence: "No bar of its rung stands at 2024-01-02: it is drawn at the nearest one before.", anchor: 1 },
    ]);
    expect(live(restated, without).status).toBe("alive");
    expect(
      problemsOf(
        mark("path", [
          [2, 12],
          [9, 14],
        ]),
        contextOf(series),
      ),
    ).toEqual([]);
    expect(problemsOf({ ...restated, rung: "PT1H" }, contextOf(without))[0].sentence).toContain("2024-01-02 00:00 UTC");
  });
});

describe("a bearing", () => {
  it("says its direction and reasons, and the newest of a rung counts", () => {
    const first = mark("bearing", [[1, 10]], { direction: "down", reasons: "" });
    const later = { ...mark("bearing", [[4, 10]], { direction: "up", reasons: "held the shelf" }), id: "2" };
    const week = { ...first, id: "3", rung: "P1W" };
    expect([say(first, days()), say(later, days())]).toEqual(["Bearing down.", "Bearing up: held the shelf."]);
    const newest = bearingsOf([later, first, week, mark("level", [[9, 1]])]);
    expect([...newest].map(([rung, { id }]) => [rung, id])).toEqual([
      ["P1D", "2"],
      ["P1W", "3"],
    ]);
  });
});

describe("what a mark may carry besides its content", () => {
  const raw = { ...mark("level", [[0, 1]]), locked: true, hidden: false };
  const copied = { market: "a", mark: "b", by: "ratio", at: 5, value: 2 } as const;
  it("is read back, and only what says something is kept", () => {
    expect(readMark({ ...raw, copied })).toMatchObject({ locked: true, copied });
    expect(readMark(raw)).not.toHaveProperty("hidden");
  });
  it.each([
    { ...copied, by: "guess" },
    { ...copied, value: 0 },
    { ...copied, value: NaN },
    { ...copied, market: 5 },
    "elsewhere",
  ])("an origin that cannot be is refused: %j", (wrong) => {
    expect(readMark({ ...raw, copied: wrong as never })).toMatch(/copied from cannot be read/);
  });
});
