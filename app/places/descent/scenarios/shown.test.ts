import { createElement as h } from "react";
import { describe, expect, it } from "vitest";
import { figuresOf } from "#core/written/figures";
import { termsOfWritten } from "#core/written/read";
import { aWritten } from "#core/testing/written";
import type { RuleFound } from "../../../../server/tasks/ruleHistory.ts";
import type { WeekEvent } from "../../../../server/events/week.ts";
import { textOf } from "../../../parts/textOf.ts";
import { EventDay } from "../../events/EventDay.tsx";
import { Calls } from "../../round/Calls.tsx";
import { AroundLines } from "./AroundLines.tsx";
import { Figures } from "./Figures.tsx";
import { HistoryFound } from "./HistoryFound.tsx";

const market = { id: "m", name: "M", tick: 0.1, pip: 0.1, pipName: "pt", decimals: 1 };
describe("figures on the page", () => {
  it("have each price with percent, points, ATR and R, and the blended reward", () => {
    const figures = figuresOf(termsOfWritten(aWritten()), market, { close: 102, atr: 4 });
    const text = textOf(h(Figures, { figures, market }));
    expect(text).toContain("Stop 98.0 \u22122.00 \u221220 \u22120.5 \u22121.00");
    expect(text).toContain("Target 1 104.0 4.00 40 1.0 2.00");
    expect(text).toContain("Reward to risk 2.50 : 1");
  });
  it("say with which step they come where they are not known yet", () => {
    const written = aWritten(
      { if: [{ when: { on: "candle", pattern: "either", rung: "P1D" } }] },
      { stop: { bind: "barLow", step: 1 } },
    );
    const figures = figuresOf(termsOfWritten(written), market, { close: 102 });
    expect(textOf(h(Figures, { figures, market }))).toContain("Its figures come with step 1.");
  });
  it("what lies about it is told in points and ATR", () => {
    const around = {
      triggers: [{ step: 1, price: 101, distance: -1 }],
      room: { name: "Day supply", distance: 4 },
      left: 0,
    };
    const text = textOf(h(AroundLines, { around, market, atr: 2 }));
    expect(text).toContain("Step 1 at 101.0: 10 pt, 0.5 ATR down from here.");
    expect(text).toContain("Room to Day supply: 40 pt, 2.0 ATR.");
    expect(text).toContain("Today has made its usual range.");
  });
});

describe("a rule's history on the page", () => {
  const summary = (n: number, hitRate: number): RuleFound["summary"] => ({
    ...{ n, notEntered: 1, open: 0, tooNear: 3, ambiguous: 2, hitRate, interval: [0.2, 0.6], years: [] },
    ...{ drawnError: 0.012 },
    ...{ expectancy: 0.25, expectancyInterval: [-0.1, 0.6], best: 1.4, worst: -0.8, inTrade: 7_200_000 },
  });
  const group = (name: string) => ({ name, n: 5, hits: 2, interval: [0.1, 0.7] as const, expectancy: 0.1 });
  const found = {
    instances: [
      {
        ...{ since: 0, r: 2, best: 2, worst: -0.5, ambiguous: true, state: "done" },
        events: [{ event: "entered", at: Date.UTC(2024, 0, 2), knownAt: Date.UTC(2024, 0, 3), price: 100 }],
      },
    ],
    ...{ count: 1, summary: summary(10, 0.4), chance: summary(700, 0.3), bars: [{ timeframe: "P1D", length: 2500 }] },
    groups: {
      years: [group("2023"), group("2024")],
      hours: [group("06 to 12")],
      resolutions: [],
      results: [{ to: -1, n: 3 }],
    },
  } as unknown as RuleFound;
  const text = textOf(h(HistoryFound, { found, seed: 7, market, onWalk: () => undefined }));
  it("stands beside chance, each figure with its interval", () => {
    expect(text).toMatch(/Made more than nothing 40 % 30 %/);
    expect(text).toMatch(/95 % interval 20 to 60 % 20 to 60 %/);
    expect(text).toMatch(/Mean result \+0\.25 R/);
    expect(text).toMatch(/In the trade 2\.0 h/);
    expect(text).toMatch(/2023 5 40 % \( ?10 to 70 % ?\)/);
  });
  it("says plainly what it is not", () => {
    for (const warning of [
      /10 trades say little/,
      /do not overlap/,
      /1 was triggered and never/,
      /On 2 trades/,
      /3 trades had the stop nearer than four ticks and are left out/,
      /700 at opens drawn with seed 7/,
      /another seed moves their mean by about \+?0\.01 R/,
      /no promise/,
    ])
      expect(text).toMatch(warning);
    expect(text).toContain("2,500 bars of P1D");
    // An instance on a bar that may have gone either way is marked.
    expect(text).toMatch(/at 100\.0 \+2\.00 R \?/);
  });
  it("of none says over how much", () => {
    const none = { ...found, count: 0, instances: [] };
    expect(textOf(h(HistoryFound, { found: none, seed: 7, market, onWalk: () => undefined }))).toContain(
      "It was never triggered over 2,500 bars of P1D.",
    );
  });
});

describe("what is called, and what comes", () => {
  it("a stop says where each scenario stands, or that it waits on the desk", () => {
    const call = {
      ...{ id: "1", title: "A", role: "preferred" as const, rank: "favourite" as const },
      weight: 60,
      direction: "long" as const,
    };
    const calls = [
      { ...call, published: { edition: 3, phase: "waiting", says: "1 of 2 steps" } },
      { ...call, id: "2", title: "B" },
    ];
    const text = textOf(h(Calls, { calls, market: "m", rung: "P1D", said: "" }));
    expect(text).toMatch(/A , long, preferred, 60 %\. 1 of 2 steps\./);
    expect(text).toMatch(/B , long, preferred, 60 %\. Not published\./);
    expect(textOf(h(Calls, { calls: [], market: "m", rung: "P1D", said: "" }))).toBe("");
  });
  it("a day is read by hours of the zone, with figures, reactions, open scenarios and who stands still", () => {
    const event = {
      ...{
        id: "e",
        uid: "e",
        source: "t",
        kind: "release",
        title: "Wages",
        at: Date.UTC(2026, 9, 14, 9),
        allDay: false,
        impact: 3,
      },
      ...{ currencies: [], region: "", sector: "", markets: [], actual: "0.5 %", forecast: "0.3 %" },
      touched: ["Tin", "Silver", "Copper", "Gold", "Zinc"],
      reactions: [{ market: "Tin", n: 12, median: 0.534 }],
      open: [{ title: "Open one", edition: 2, market: "Tin" }],
    } as unknown as WeekEvent;
    const closed = { date: "2026-10-14", closed: ["Silver"], early: [{ market: "Gold", at: "13:00" }] };
    const props = { title: "Wed 14 Oct 2026", events: [event], closed, now: 0, onChange: () => undefined };
    const text = textOf(h(EventDay, { ...props, zone: "Asia/Tokyo" }));
    expect(text).toMatch(/18 h 18:00/);
    expect(text).toContain("actual 0.5 % , forecast 0.3 %");
    expect(text).toContain("Tin 0.53 ATR (n 12), Silver, Copper and 2 more");
    expect(text).toMatch(/Open on Tin: Open one/);
    expect(text).toMatch(/1 market stands still: Silver\./);
    expect(text).toMatch(/Half day: Gold \(until 13:00 there\)\./);
  });
});
