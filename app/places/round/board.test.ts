import { describe, expect, it } from "vitest";
import type { BoardCell, BoardRow } from "../../../server/round/board.ts";
import { alertsFor, areaName } from "../alerts/AlertChoices.tsx";
import { noteOf } from "./Board.tsx";
import { isStillWatched } from "./SidePanel.tsx";
import { summaryText } from "./EndOfRound.tsx";
import { arrange, freshCount } from "./order.ts";
import { isStale, nextRow } from "./useRows.ts";
import { cellText, clockText, rangeText, roundTitle, toAreaText, verdictText } from "./words.ts";

const NOW = Date.UTC(2026, 9, 14, 12, 42);
const cell = (rung: string, change: Partial<BoardCell> = {}): BoardCell => ({
  market: "tin",
  rung,
  close: 100,
  closedAt: NOW - 10,
  closesAt: NOW + 10,
  lookedAt: NOW - 20,
  direction: "up",
  own: false,
  machine: "up",
  shifted: false,
  shiftAt: undefined,
  ...change,
});
const area = (distance: number) => ({ bottom: 104, top: 106, weight: 3, rungs: ["P1W", "P1D"], distance, own: true });
const row = (name: string, change: Partial<BoardRow> = {}): BoardRow => ({
  id: name,
  name,
  tick: 0.05,
  pip: 1,
  pipName: "pt",
  decimals: 2,
  kind: "commodity",
  calls: [],
  cells: [cell("P1D"), cell("PT1H", { direction: "down", lookedAt: NOW })],
  standing: {
    price: 100,
    areas: [area(4)],
    near: [{ rung: "P1D", area: 0, candle: "indecision" }],
    around: [area(4)],
    range: { today: 3, usual: 4 },
  },
  validUntil: NOW + 10,
  verdict: null,
  before: null,
  events: [],
  ...change,
});

describe("the board's rows", () => {
  const rungs = ["P1D", "PT1H"];
  it("stand by kind of market, or in the order of a list of one's own", () => {
    const rows = [row("pair", { kind: "currency" }), row("odd", { kind: "other" }), row("tin"), row("oil")];
    expect(
      arrange(rows, "list", "all", rungs, true).map(({ title, rows: some }) => [title, some.map(({ name }) => name)]),
    ).toEqual([
      ["Currencies", ["pair"]],
      ["Commodities", ["tin", "oil"]],
      ["Others", ["odd"]],
    ]);
    expect(arrange(rows, "list", "all", rungs, false)).toEqual([{ title: "", rows }]);
  });
  it.each([
    ["area", ["near", "far", "none"]],
    ["fresh", ["near", "none", "far"]],
    ["agreement", ["far", "near", "none"]],
    ["range", ["none", "far", "near"]],
  ] as const)("by %s come %j", (order, names) => {
    const rows = [
      row("far", {
        cells: [cell("P1D", { lookedAt: NOW }), cell("PT1H", { lookedAt: NOW })],
        standing: { price: 100, areas: [], near: [], around: [area(-8)], range: { today: 4, usual: 4 } },
      }),
      row("near", { cells: [cell("P1D"), cell("PT1H", { direction: "sideways" })] }),
      row("none", {
        calls: [],
        cells: [cell("P1D"), cell("PT1H", { direction: "down", lookedAt: NOW })],
        standing: { price: 100, areas: [], near: [], around: [], range: { today: 9, usual: 4 } },
      }),
    ];
    expect(arrange(rows, order, "all", rungs, true)[0].rows.map(({ name }) => name)).toEqual(names);
  });
  it("are those that are asked for: closed since looked, near an area, watched or planned", () => {
    const plan = { rung: "P1D", verdict: "plan" as const, remark: "", saidAt: NOW, asksAt: null };
    const rows = [
      row("done", { cells: [cell("P1D", { lookedAt: NOW })], standing: null }),
      row("open"),
      row("said", { verdict: plan, cells: [cell("P1D", { lookedAt: NOW })] }),
      row("before", { before: { ...plan, verdict: "watch" } }),
      row("passed", { verdict: { ...plan, verdict: "nothing" }, before: plan }),
    ];
    const names = (filter: Parameters<typeof arrange>[2]) =>
      arrange(rows, "list", filter, rungs, false).flatMap(({ rows: some }) => some.map(({ name }) => name));
    expect(names("open")).toEqual(["open", "before", "passed"]);
    expect(names("near")).toEqual(["open", "said", "before", "passed"]);
    expect(names("said")).toEqual(["said", "before"]);
    // A rung that is only read asks for no look.
    expect(freshCount(row("x", { cells: [cell("P1Y", { lookedAt: undefined })] }), rungs)).toBe(0);
  });
  it("say in words what their marks mean", () => {
    const one = row("tin", {
      cells: [
        cell("P1D", { own: true, machine: "down", shifted: true, lookedAt: undefined, shiftAt: 98.5 }),
        cell("PT1H", { close: undefined }),
      ],
    });
    expect(cellText(one, one.cells[0])).toBe(
      "up by hand, the machine reads down; new shift; not looked at yet; near the area 104.00 to 106.00; " +
        "indecision candle at it; shifts beyond 98.50",
    );
    expect([cellText(one, one.cells[1]), cellText(one, null)]).toEqual(["no bars", "being read"]);
    expect([
      toAreaText(one),
      toAreaText(row("x", { standing: { price: 100, areas: [], near: [], around: [area(0)], range: undefined } })),
      toAreaText(row("x", { standing: null })),
    ]).toEqual(["\u2191 4.0 %", "in it", ""]);
    expect(rangeText(one)).toBe("75 %");
  });
  it("carry the next event that touches them and the last words, until something new was said", () => {
    const event = (hour: number, title: string, allDay = false) => ({
      id: title,
      title,
      at: Date.UTC(2026, 9, 14, hour),
      allDay,
      impact: 3 as const,
      kind: "release" as const,
      why: "Olta",
    });
    const said = { rung: "P1D", verdict: "watch" as const, remark: "at 404", saidAt: 0, asksAt: null };
    const one = row("tin", {
      events: [event(9, "over"), event(16, "later"), event(14, "next"), event(0, "all", true)],
      before: said,
    });
    expect(noteOf(one, NOW)).toEqual({
      short: "14:00 |||  watch at 404",
      whole: "14:00 next; 16:00 later; today all; watch at 404",
    });
    expect(noteOf({ ...one, events: [], verdict: said }, NOW).short).toBe("");
  });
});

describe("rows that lack something", () => {
  it("are asked for in turn, the one that is looked at first; one that fails holds up no other", () => {
    const stale = ["a", "b", "c"].map((name) => row(name, { validUntil: NOW }));
    const rows = [...stale, row("fresh")];
    expect(nextRow(rows, NOW, "b", new Map())).toBe("b");
    expect(nextRow(rows, NOW, "b", new Map([["b", 0]]))).toBe("a");
    expect(
      nextRow(
        rows,
        NOW,
        undefined,
        new Map([
          ["a", 0],
          ["b", 2],
          ["c", 1],
        ]),
      ),
    ).toBe("a");
    expect(nextRow([row("fresh")], NOW, "fresh", new Map())).toBeUndefined();
    // Of those that had no turn yet one in sight comes first.
    expect(nextRow(rows, NOW, undefined, new Map(), new Set(["c"]))).toBe("c");
    expect(nextRow(rows, NOW, undefined, new Map([["c", 0]]), new Set(["c"]))).toBe("a");
    expect([isStale(row("x", { standing: null }), NOW), isStale(row("x", { cells: [null] }), NOW)]).toEqual([
      true,
      true,
    ]);
  });
});

describe("words of a round", () => {
  it("times of another day carry it", () =>
    expect([clockText(NOW, NOW), clockText(NOW - 86_400_000, NOW)]).toEqual(["12:42", "13.10. 12:42"]));
  it("a verdict says its rung, whether it is to be asked again, and its remark", () => {
    const said = { rung: "PT4H", verdict: "plan" as const, remark: "at 404", saidAt: 0, asksAt: NOW + 18 * 60_000 };
    expect(verdictText(said, NOW)).toBe("plan, 4 h, if it closes so at 13:00: at 404");
    expect(verdictText(said, NOW + 3_600_000)).toBe("plan, 4 h, ask again: at 404");
  });
  it("rounds of a day are counted, the one that is on among them", () =>
    expect([roundTitle(0, false), roundTitle(1, true), roundTitle(2, false), roundTitle(11, true)]).toEqual([
      "First round today",
      "First round today",
      "Third round today",
      "Round 11 today",
    ]));
  it("the end sums up what is watched and planned, with the nearest area, and what was left", () => {
    const said = { rung: "PT4H", verdict: "plan" as const, remark: "back at 104", saidAt: 0, asksAt: null };
    const text = summaryText({
      rows: [row("Tin", { verdict: said }), row("Oil", { verdict: { ...said, verdict: "nothing" } }), row("Gas")],
      done: { looked: 4, of: 6, markets: 2, ofMarkets: 3 },
    });
    expect(text).toBe("Tin: plan on 4 h, back at 104. Nearest area 104.00 to 106.00.\nNot looked at: 2 stops.");
  });
  it("alerts are offered at the nearest area or at a mark, and on the rung in any case", () => {
    expect(alertsFor({ rung: "P1D", areas: [], atr: 4 }).map(({ on }) => on)).toEqual(["shift", "close"]);
    const [reach] = alertsFor({ rung: "P1D", areas: [{ bottom: 104, top: 105, rungs: ["P1W", "P1D"] }], atr: 4 });
    expect(reach).toMatchObject({
      on: "reach",
      at: { bottom: 104, top: 105, name: "the area of Week and Day", leave: 2 },
    });
    expect(
      alertsFor({ rung: "P1D", areas: [], mark: { id: "m", name: "old high", bottom: 9, top: 19 }, atr: 4 })[0],
    ).toMatchObject({ at: { mark: "m", leave: 10 } });
    const [atPrice] = alertsFor({ rung: "P1D", areas: [{ bottom: 1, top: 2, rungs: ["P1W"] }], at: 431.2, atr: 4 });
    expect(atPrice).toMatchObject({ on: "reach", at: { bottom: 431.2, top: 431.2, name: "", leave: 2 } });
    expect(areaName(["P1Y", "P1W", "PT15M"])).toBe("the area of 3 rungs, Year to 15 min");
  });
});

describe("what was watched in a round before", () => {
  const hours = (count: number) => NOW - count * 3_600_000;
  it("is told on the next days, until it is taken back or four days are over", () => {
    expect(isStillWatched({ verdict: "watch", saidAt: hours(20) }, NOW)).toBe(true);
    expect(isStillWatched({ verdict: "plan", saidAt: hours(70) }, NOW)).toBe(true);
    expect(isStillWatched({ verdict: "nothing", saidAt: hours(20) }, NOW)).toBe(false);
    expect(isStillWatched({ verdict: "watch", saidAt: hours(97) }, NOW)).toBe(false);
    expect(isStillWatched({ verdict: "watch", saidAt: hours(-1) }, NOW)).toBe(false);
    expect(isStillWatched(null, NOW)).toBe(false);
  });
});
