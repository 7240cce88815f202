import { describe, expect, it } from "vitest";
import { AlertDto, readTerms } from "#contracts/alert";
import { DraftDto } from "#contracts/draft";
import { EventDto } from "#contracts/event";
import { MarketDto } from "#contracts/market";
import { readDto } from "#contracts/read";
import { RuleHistoryDto, SaveScenarioDto } from "#contracts/scenario";
import { aWritten } from "#core/testing/written";

const ID = "6f1c2a34-8f5e-4d2b-9a51-0c9d3f6a7b12";
const { terms: closeAbove } = aWritten();

/** A good value with one part of it changed: "sessions.0.open" names it. `undefined` leaves it out. */
function withPart(good: object, path: string, part: unknown): object {
  const copy = structuredClone(good) as Record<string, unknown>;
  const names = path.split(".");
  const last = names.pop()!;
  const at = names.reduce((value, name) => value[name] as Record<string, unknown>, copy);
  if (part === undefined) delete at[last];
  else at[last] = part;
  return copy;
}

const text = (length: number) => "x".repeat(length);
const list = <T>(length: number, one: T) => Array.from({ length }, () => one);

/** Of each part: what is just allowed, and what is just not. */
type Limits = [path: string, allowed: unknown[], refused: unknown[]][];

function holds(type: new () => object, good: object, limits: Limits): void {
  it("is taken as it is", () => expect(readDto(type, good)).toMatchObject({ ok: true }));
  it.each(limits)("%s is taken up to its limit, and told at its place beyond it", (path, allowed, refused) => {
    for (const part of allowed)
      expect(readDto(type, withPart(good, path, part)), `${path}: allowed`).toMatchObject({ ok: true });
    for (const part of refused) {
      const read = readDto(type, withPart(good, path, part));
      const told = read.ok ? {} : read.fields;
      expect(Object.keys(told), `${path}: ${JSON.stringify(part)?.slice(0, 60)}`).toContainEqual(
        expect.stringMatching(new RegExp(`^${path.replaceAll(".", "\\.")}`)),
      );
      for (const sentence of Object.values(told)) expect(sentence).toMatch(/^\S.*\.$/);
    }
  });
}

describe("a draft", () => {
  const market = { kind: "market", id: "m", market: "tin", rung: "P1D", scenarios: [ID] };
  const step = { rung: "PT1H", text: "Up.", voice: { sha256: text(64).replaceAll("x", "a"), seconds: 3, said: "Up." } };
  const blocks = [
    { ...market, counts: { degrees: 2, alternates: false }, rests: [{ rung: "P1W", text: "Down." }] },
    { kind: "walk", id: "w", market: "tin", steps: [step] },
    { kind: "question", id: "q", asked: "Is a wick enough?", answer: "No." },
    { kind: "risk", id: "r", text: "Losses are possible." },
  ];
  holds(DraftDto, { version: 1, title: "Tin", kind: "morning", blocks }, [
    ["version", [1, 2_000_000_000], [0, 1.5, 2_000_000_001, "1", undefined]],
    ["title", ["", text(200)], [text(201), 7, undefined]],
    ["kind", ["week", "lesson"], ["evening", "", undefined]],
    ["blocks", [[], list(40, blocks[3])], [list(41, blocks[3]), {}]],
    ["blocks.0.market", [text(60)], ["", text(61)]],
    ["blocks.0.rung", ["PT1M", "P10Y"], ["P0D", "P11Y", "PT1441M", "day"]],
    ["blocks.0.scenarios", [[], list(10, ID)], [list(11, ID), ["no id"]]],
    ["blocks.0.counts.degrees", [1, 9], [0, 10, 1.5]],
    ["blocks.0.rests", [[]], [list(21, { rung: "P1D", text: "" })]],
    ["blocks.0.rests.0.text", [text(4_000)], [text(4_001)]],
    ["blocks.1.steps", [[], list(8, { rung: "P1D", text: "" })], [list(9, { rung: "P1D", text: "" })]],
    ["blocks.1.steps.0.text", [text(1_000)], [text(1_001)]],
    [
      "blocks.1.steps.0.voice.sha256",
      [text(64).replaceAll("x", "0")],
      [text(64), text(63).replaceAll("x", "0"), "../x"],
    ],
    ["blocks.1.steps.0.voice.seconds", [0, 600], [-1, 601, "3"]],
    ["blocks.2.asked", [text(1_000)], [text(1_001)]],
    ["blocks.2.answer", ["", text(4_000)], [text(4_001)]],
    ["blocks.3.text", [text(2_000)], [text(2_001)]],
  ]);
});

describe("a market", () => {
  const session = { days: [1, 5], open: "09:00", close: "24:00", opensDayBefore: false, kind: "regular" };
  const good = {
    ...{ name: "Tin", kind: "commodity", tick: 0.05, decimals: 2, pip: 1, pipName: "pt", zone: "UTC" },
    ...{ sessions: [session], holidays: ["2026-12-25"], halfDays: [{ date: "2026-12-24", close: "13:00" }] },
    ties: { currencies: ["verin"], region: "the Isles", sector: "" },
  };
  holds(MarketDto, good, [
    ["name", [text(80)], ["", text(81), "Tin\nX"]],
    ["tick", [0.00001], [0, -1, "0.05", null]],
    ["pip", [1e9], [0, 1e9 + 1]],
    ["sessions", [[], list(20, session)], [list(21, session)]],
    ["sessions.0.days", [[7]], [[0], [8], ["1"]]],
    ["sessions.0.open", ["00:00", "23:59"], ["24:01", "9:00", "09:60", ""]],
    ["sessions.0.kind", ["overnight"], ["night"]],
    ["holidays", [[]], [["25.12.2026"], ["2026-12-25T00:00"], [1]]],
    ["halfDays.0.date", ["2026-12-31"], ["Thursday"]],
    ["ties.currencies", [list(20, "verin")], [list(21, "verin"), [""], [text(61)]]],
    ["ties.region", ["", text(60)], [text(61)]],
  ]);
});

describe("an event", () => {
  const good = {
    ...{ id: "", kind: "release", title: "Prices paid", at: 0, allDay: false, impact: 2, markets: ["tin"] },
    ...{ currencies: [], region: "", sector: "", forecast: "2.1 %" },
  };
  holds(EventDto, good, [
    ["kind", ["speech", "holiday", "expiry"], ["party", undefined]],
    ["title", [text(200)], ["", text(201)]],
    ["at", [-8e15, 8e15], [8e15 + 2, NaN, "2026-01-01", undefined]],
    ["until", [1, undefined], [9e15, "soon"]],
    ["impact", [1, 3], [0, 4, 1.5]],
    ["markets", [[], list(50, "tin")], [list(51, "tin"), [""]]],
    ["forecast", [text(40), undefined, null], [text(41), 2.1]],
  ]);
});

describe("a scenario", () => {
  const scenario = {
    ...{ format: 2, id: ID, title: "Close above 101", premise: "", rank: "favourite", role: "preferred", weight: 60 },
    ...{ terms: closeAbove, waived: {} },
  };
  holds(SaveScenarioDto, { version: 0, step: "save", scenario }, [
    ["step", ["remove"], ["publish", undefined]],
    ["writtenAt", [0, 8e15, undefined], [-1, 9e15]],
    ["scenario.format", [2], [1, 3]],
    ["scenario.title", [text(80)], ["", text(81)]],
    ["scenario.premise", [text(1_000)], [text(1_001)]],
    ["scenario.weight", [0, 100], [-1, 101, 33.3]],
    ["scenario.terms", [closeAbove], [{}, { ...closeAbove, orders: [] }, "if it closes"]],
    ["scenario.waived", [{}], [{ "no such rule": "x" }, { reward: " " }, { reward: text(301) }]],
    ["scenario.restsOn", [ID, undefined], ["another", 7]],
  ]);
  holds(RuleHistoryDto, { terms: closeAbove, days: 30, seed: 7 }, [
    ["days", [0.01, 3660], [0, 3661]],
    ["seed", [1, 2_000_000_000], [0, 1.5]],
    ["from", [-8e15, undefined], [-9e15]],
  ]);
});

describe("what an alert waits for", () => {
  const at = { bottom: 1, top: 2, name: "a zone", leave: 0 };
  const every = [
    { on: "reach", at },
    { on: "beyond", rung: "PT4H", at },
    { on: "candle", rung: "PT4H", at, candle: "engulfing" },
    { on: "shift", rung: "P1D", direction: "either" },
    { on: "close", rung: "PT15M" },
  ].map((terms) => ({ ...terms, again: false, note: "" }));

  it.each(every)("$on is read as it is, and what nobody knows of is not kept", (terms) => {
    expect(readTerms({ ...terms, more: 1, at: { ...at, more: 1 } })).toEqual(terms);
    expect(readDto(AlertDto, { terms })).toMatchObject({ ok: true });
  });

  it.each(every)("$on is none where a part of it is missing or odd", (terms) => {
    for (const name of Object.keys(terms)) expect(readTerms({ ...terms, [name]: undefined }), name).toBeUndefined();
    for (const odd of [{ note: text(301) }, { again: "yes" }, { on: "constructor" }])
      expect(readTerms({ ...terms, ...odd })).toBeUndefined();
    if ("at" in terms)
      for (const place of [{ bottom: 3 }, { top: NaN }, { leave: -1 }, { name: text(81) }, { mark: text(37) }])
        expect(readTerms({ ...terms, at: { ...at, ...place } }), JSON.stringify(place)).toBeUndefined();
    if ("rung" in terms) expect(readTerms({ ...terms, rung: "P0D" })).toBeUndefined();
  });

  it("of a scenario is by its id: its words are the desk's, not the asker's", () => {
    const asked = { on: "scenario", scenario: ID, title: "mine", terms: { x: 1 }, again: false, note: "" };
    expect(readTerms(asked)).toEqual({ ...asked, title: "", terms: {} });
  });
});
