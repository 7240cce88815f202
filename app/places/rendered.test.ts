import { createElement as h } from "react";
import { describe, expect, it } from "vitest";
import type { MarketFacts } from "#core/marks/kind";
import { asInstant } from "#core/observe/instant";
import type { FollowUp } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";
import type { Scenario } from "#core/scenarios/scenario";
import { textOf } from "../parts/textOf.ts";
import { FirstSteps } from "../parts/FirstSteps.tsx";
import { Trouble } from "../parts/Trouble.tsx";
import { ReaderScenario } from "./reader/ReaderScenario.tsx";

describe("a desk without a market", () => {
  it("begins with three steps in working order: bring bars, descend, publish", () => {
    const text = textOf(h(FirstSteps));
    const places = ["Bring bars", "Import a file of bars", "Descend", "Publish", "Begin an outlook"].map((one) =>
      text.indexOf(one),
    );
    expect(places.every((at) => at >= 0)).toBe(true);
    expect([...places].sort((a, b) => a - b)).toEqual(places);
  });
});

describe("a place that failed", () => {
  it("says what happened, what to do and the request's number, and nothing of how", () => {
    const failure = { sentence: "It is gone.", remedy: "Choose another.", requestId: "r-1" };
    expect(textOf(h(Trouble, { status: 404, failure }))).toMatch(
      /There is nothing here.*It is gone.*Choose another.*r-1/,
    );
    expect(textOf(h(Trouble, { status: 500, failure: { requestId: "r-2" } }))).toMatch(/it has been noted.*r-2/);
    // What has no number was not written down, and is not said to be.
    expect(textOf(h(Trouble, { status: 500 }))).not.toContain("noted");
  });
});

describe("a scenario as readers see it", () => {
  const market: MarketFacts = { id: "m", name: "M", tick: 0.01, pip: 0.01, pipName: "pip", decimals: 2 };
  const scenario: Scenario = {
    id: "a",
    title: "Back to the shelf",
    premise: "It held twice.",
    direction: "long",
    trigger: { event: "closeAbove", price: 100, timeframe: "PT1H" },
    entry: { order: "market", price: 101 },
    stop: 99,
    targets: [
      { price: 103, share: 0.5 },
      { price: 105, share: 0.5 },
    ],
    invalidation: 98,
    expiry: Date.UTC(2026, 9, 20),
  };
  const at = asInstant(Date.UTC(2026, 9, 14, 12));
  const knownAt = asInstant(Date.UTC(2026, 9, 14, 13));
  const shown = (followUps: FollowUp[], notes: OutcomeNote[] = []) =>
    textOf(h(ReaderScenario, { scenario, market, close: 100, standing: undefined, followUps, notes }));
  it("has its number and the price that proves it wrong, and waits", () => {
    const text = shown([]);
    expect(text).toMatch(/Wrong below 98\.00/);
    expect(text).toMatch(/Target 1, 50 % 103\.00 \+1\.00 R/);
    expect(text).toContain("Waiting for its trigger.");
  });
  it("says what became of it when it was known, and what is not certain of it", () => {
    const text = shown([
      { event: "triggered", at, knownAt, price: 100.5, step: 1 },
      { event: "stopped", at, knownAt, price: 99, r: -1, ambiguous: true },
    ]);
    expect(text).toMatch(/14 Oct 2026, 13:00 UTC\. Triggered by a close at 100\.50\./);
    expect(text).toMatch(/Stopped at 99\.00\. \u22121\.00 R\. Within this bar it may have gone better/);
  });
  it("and what bars that came late would have told", () => {
    const note: OutcomeNote = { note: "finer", cause: "import", time: knownAt, from: at, to: at, same: true };
    expect(shown([], [note])).toMatch(/Finer bars came for a time this outcome used\. What was recorded stands\./);
  });
});
