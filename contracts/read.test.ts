import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { AlertDto } from "#contracts/alert";
import { DeriveMarketDto } from "#contracts/derive";
import { DraftDto } from "#contracts/draft";
import { EventDto } from "#contracts/event";
import { LayoutDto } from "#contracts/layout";
import { RUNG, StepsDto } from "#contracts/mark";
import { MarketDto } from "#contracts/market";
import { plainFault } from "#contracts/plain";
import { readDto } from "#contracts/read";
import { RoundStepsDto } from "#contracts/round";
import { SaveRungSetDto } from "#contracts/rungs";
import { SaveScenarioDto } from "#contracts/scenario";
import { SetupDto } from "#contracts/setup";
import { parseTimeframe } from "#core/time/timeframe";

const ID = "6f1c2a34-8f5e-4d2b-9a51-0c9d3f6a7b12";
const mark = (change: object = {}) => ({
  id: ID,
  kind: "level",
  rung: "P1D",
  anchors: [{ time: 0, price: 1 }],
  props: {},
  note: "",
  ...change,
});
const steps = (change: object = {}, more = 1) => ({
  steps: Array.from({ length: more }, () => ({ id: ID, step: "set", version: 0, mark: mark(change) })),
});
const fields = (type: new () => object, value: unknown) => {
  const read = readDto(type, value);
  return read.ok ? {} : read.fields;
};

describe("what comes over the border", () => {
  it("is taken when it is in order", () => {
    expect(readDto(StepsDto, steps()).ok).toBe(true);
    const blocks = [
      { kind: "words", id: "a", words: { type: "doc", content: [] } },
      {
        kind: "market",
        id: "b",
        market: "tin",
        rung: "P1D",
        scenarios: [ID],
        counts: { degrees: 1, alternates: true },
      },
      { kind: "calendar", id: "c", days: 7 },
      { kind: "recap", id: "d" },
      { kind: "ranking", id: "e" },
      { kind: "board", id: "f" },
      { kind: "risk", id: "g", text: "Losses are possible." },
    ];
    const read = readDto(DraftDto, { version: 1, title: "T", kind: "morning", blocks });
    expect(read.ok && read.value.blocks.map(({ kind }) => kind)).toEqual(blocks.map(({ kind }) => kind));
  });
  it.each<[string, object]>([
    ["of no kind", { kind: "x", id: "a" }],
    ["without a kind", { id: "a" }],
    ["without an id", { kind: "recap" }],
    ["with more than it has", { kind: "recap", id: "a", lines: [] }],
    ["of words without any", { kind: "words", id: "a" }],
    ["of words that are a text", { kind: "words", id: "a", words: "text" }],
    ["of a market on no rung", { kind: "market", id: "a", market: "tin", rung: "day", scenarios: [] }],
    [
      "of a market with its words as text",
      { kind: "market", id: "a", market: "t", rung: "P1D", scenarios: [], words: "x" },
    ],
    ["of a calendar of three days", { kind: "calendar", id: "a", days: 3 }],
    ["of a notice without end", { kind: "risk", id: "a", text: "x".repeat(2_001) }],
    ["that is a kind of object", { kind: "constructor", id: "a" }],
  ])("a block %s is refused", (_what, block) => {
    expect(readDto(DraftDto, { version: 1, title: "T", kind: "morning", blocks: [block] }).ok).toBe(false);
  });
  it("a draft of no kind of edition, or of too many blocks, is refused", () => {
    const blocks = Array.from({ length: 41 }, (_, n) => ({ kind: "recap", id: `${n}` }));
    expect(readDto(DraftDto, { version: 1, title: "T", kind: "evening", blocks: [] }).ok).toBe(false);
    expect(readDto(DraftDto, { version: 1, title: "T", kind: "morning", blocks }).ok).toBe(false);
  });
  it.each([null, undefined, 1, "text", true, []])("%j is no object, and said to be none", (value) =>
    expect(fields(StepsDto, value)).toEqual({ "": "An object is needed." }),
  );
  it("names the field at fault, in a sentence", () => {
    expect(fields(StepsDto, steps({ note: "x".repeat(2001) }))).toEqual({
      "steps.0.mark.note": "A note has at most 2,000 characters.",
    });
    expect(fields(StepsDto, { ...steps(), more: 1 })).toHaveProperty("more");
  });
  it("a list of 200,000 steps is refused for its length, before any of them is looked at", () => {
    let looked = 0;
    const step = {
      get id() {
        looked++;
        return ID;
      },
      step: "set",
      version: 0,
      mark: null,
    };
    expect(
      Object.keys(
        fields(StepsDto, {
          steps: new Proxy([], { get: (_list, name) => (name === "length" ? 200_000 : step), has: () => true }),
        }),
      ).length,
    ).toBeGreaterThan(0);
    expect(looked).toBe(0);
    expect(fields(StepsDto, { steps: Array.from({ length: 501 }, () => null) })).toEqual({
      steps: "Steps has at most 500 entries.",
    });
    expect(
      fields(LayoutDto, { panes: Array.from({ length: 7 }, () => ({ market: "", rung: "P1D" })), shown: {} }),
    ).toEqual({ panes: "There are at most 6 charts." });
  });
  it.each([
    ["a time beyond all dates", { time: 1e308, price: 1 }],
    ["a price beyond all prices", { time: 0, price: 1e300 }],
    ["a time that is text", { time: "0", price: 1 }],
    ["something more", { time: 0, price: 1, more: 1 }],
    ["nothing", null],
  ])("an anchor of %s is none", (_what, anchor) =>
    expect(fields(StepsDto, steps({ anchors: [anchor] }))).toEqual({
      "steps.0.mark.anchors": "An anchor is a date and a price.",
    }),
  );
  it("a unit that a spreadsheet would take for a formula, or that breaks a line, is none", () => {
    const market = (pipName: string) => ({
      name: "Tin",
      kind: "commodity",
      tick: 0.01,
      decimals: 2,
      pip: 0.01,
      pipName,
      zone: "UTC",
      sessions: [],
      holidays: [],
      halfDays: [],
    });
    for (const good of ["pip", "point", "tick", "\u20ac", "1/8 pt", "\u00f8re"])
      expect(fields(MarketDto, market(good))).toEqual({});
    for (const bad of ["=1+1", "+x", "-x", "@x", "a\nb", "a,b", '"', "\tx"])
      expect(Object.keys(fields(MarketDto, market(bad)))).toEqual(["pipName"]);
    expect(Object.keys(fields(MarketDto, { ...market("pip"), name: "Tin\r\nX: y" }))).toEqual(["name"]);
  });
  it("no data, however odd, makes the reading of a contract throw", () => {
    const types: (new () => object)[] = [
      StepsDto,
      AlertDto,
      DeriveMarketDto,
      DraftDto,
      EventDto,
      LayoutDto,
      MarketDto,
      RoundStepsDto,
      SaveRungSetDto,
      SaveScenarioDto,
      SetupDto,
    ];
    const names = fc.constantFrom(
      "steps",
      "mark",
      "anchors",
      "id",
      "step",
      "version",
      "terms",
      "legs",
      "blocks",
      "kind",
      "words",
      "sessions",
      "rungs",
      "scenario",
      "trigger",
      "targets",
      "panes",
      "shown",
      "ties",
      "x",
      "constructor",
      "toString",
      "__proto__",
      "length",
    );
    const { value } = fc.letrec((tie) => ({
      value: fc.oneof(
        { maxDepth: 4 },
        fc.jsonValue(),
        fc.double(),
        fc.constantFrom(NaN, 1e308, -0, ""),
        fc.array(tie("value"), { maxLength: 4 }),
        fc.dictionary(names, tie("value"), { maxKeys: 5 }),
      ),
    }));
    let refused = 0;
    fc.assert(
      fc.property(fc.constantFrom(...types), value, (type, one) => {
        const read = readDto(type, one);
        if (!read.ok) {
          refused++;
          for (const sentence of Object.values(read.fields)) expect(sentence).toMatch(/^.+\.$/s);
        }
      }),
      { numRuns: 2000, seed: 11 },
    );
    expect(refused).toBeGreaterThan(1000);
  });
});

describe("values from elsewhere are judged before anything walks them", () => {
  const nested = (depth: number): unknown => (depth === 0 ? 1 : [nested(depth - 1)]);
  it.each<[string, unknown, RegExp | undefined]>([
    ["usual", steps(), undefined],
    ["deep", nested(30), /nested more than 24 deep/],
    ["very deep", JSON.parse(`${"[".repeat(50_000)}${"]".repeat(50_000)}`), /nested/],
    ["large", Array.from({ length: 200_001 }, () => 0), /More than 200,000 values/],
    ["half a letter", { note: "a\ud800b" }, /half a letter/],
    ["half a letter in a name", { "a\udc00": 1 }, /half a letter/],
    ["a whole letter of two halves", { note: "\ud83e\udded" }, undefined],
    ["a name that every object has", { a: [{ constructor: 1 }] }, /"constructor"/],
    ["a name that reaches into every object", JSON.parse('{"props":{"__proto__":{"a":1}}}'), /__proto__/],
  ])("%s", (_what, value, fault) => {
    if (fault) expect(plainFault(value)).toMatch(fault);
    else expect(plainFault(value)).toBeUndefined();
  });
});

describe("rungs", () => {
  it.each(["PT1M", "PT45M", "PT1440M", "PT1H", "PT24H", "P1D", "P99D", "P52W", "P3M", "P24M", "P10Y"])(
    "%s is one",
    (rung) => {
      expect(rung).toMatch(RUNG);
      expect(parseTimeframe(rung)).toBeDefined();
    },
  );
  it.each([
    "PT0M",
    "PT1441M",
    "PT25H",
    "P0D",
    "P100D",
    "P53W",
    "P25M",
    "P11Y",
    "P999Y",
    "P1D\n",
    "p1d",
    "PT01M",
    "P1DT1H",
    "",
  ])("%j is none", (rung) => expect(rung).not.toMatch(RUNG));
});
