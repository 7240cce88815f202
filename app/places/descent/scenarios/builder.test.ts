import { describe, expect, it } from "vitest";
import { readTerms } from "#core/conditions/registry";
import { aWritten, facts, NOW } from "#core/testing/written";
import { checkWritten } from "#core/written/check";
import type { Written, WrittenCondition } from "#core/written/written";
import { scenarioAt } from "../../round/writeAt.ts";
import { fieldOf, withField } from "./builder.ts";
import { FORMS, hasGap, rungOptions } from "./conditionFields.ts";
import { amongOthers, draftAt, draftFromCount, newDraft } from "./drafts.ts";
import { moveStep } from "./moveStep.ts";

const market = { id: "m", name: "M", tick: 0.1, pip: 0.1, pipName: "pt", decimals: 1 };

describe("a field of a draft", () => {
  it("is set by its path, taken away without a value, and leaves the draft before as it was", () => {
    const draft = aWritten();
    const next = withField(draft, "orders[0].targets[1].price", 107);
    expect(fieldOf(next, "orders[0].targets[1].price")).toBe(107);
    expect(fieldOf(draft, "orders[0].targets[1].price")).toBe(106);
    expect(withField(withField(draft, "leastReward", 2), "leastReward", undefined).terms).toEqual(draft.terms);
  });
  it("a touch is of a price or of a band: the one said last", () => {
    const draft = aWritten({ if: [{ when: { on: "touch", price: 101 } }] });
    const band = withField(draft, "if[0].when.band", [99, 100]);
    expect(band.terms.if[0].when).toEqual({ on: "touch", band: [99, 100] });
    expect(withField(band, "if[0].when.price", 98).terms.if[0].when).toEqual({ on: "touch", price: 98 });
  });
});

describe("a step that is moved", () => {
  const sweep = { when: { on: "sweep", side: "low", price: 99, rung: "P1D", within: 0 } };
  const shift = { when: { on: "shift", direction: "up", rung: "PT1H" } };
  const beyond = { when: { on: "beyondBar", of: 1, side: "above" } };
  it("takes along what is bound to it, and what speaks of its bar", () => {
    const { terms } = aWritten(
      { if: [sweep, shift, beyond] },
      {
        stop: { bind: "sweptExtreme", step: 1, ticks: -2 },
        entry: { order: "limit", price: { bind: "gapNear", step: 2 } },
      },
    );
    const moved = moveStep(terms, "if", 0, 1);
    expect(moved.if.map(({ when }) => when.on)).toEqual(["shift", "sweep", "beyondBar"]);
    expect(moved.orders[0]).toMatchObject({ stop: { step: 2 }, entry: { price: { step: 1 } } });
    expect(moved.if[2].when.of).toBe(2);
    expect(moveStep(moved, "if", 1, 0)).toEqual(terms);
  });
  it("guards have no numbers: only their order changes", () => {
    const { terms } = aWritten({ unless: [sweep.when, shift.when] }, { stop: { bind: "barLow", step: 1 } });
    const moved = moveStep(terms, "unless", 0, 1);
    expect(moved.unless).toEqual([shift.when, sweep.when]);
    expect(moved.orders).toEqual(terms.orders);
  });
});

describe("the forms of conditions", () => {
  /** A blank with everything that is missing filled in. */
  const filled = (value: unknown, name = ""): unknown => {
    if (value === null) return name === "band" ? [1, 2] : 5;
    if (name === "market" && value === "") return "other";
    if (Array.isArray(value)) return value.map((one) => filled(one));
    if (typeof value !== "object") return value;
    return Object.fromEntries(Object.entries(value as object).map(([own, one]) => [own, filled(one, own)]));
  };
  it.each(FORMS.map((form) => [form.on, form] as const))(
    "%s: once its gaps are filled it can be followed",
    (_on, form) => {
      const blank = form.blank("P1D");
      expect(() => readTerms(filled(blank), "when")).not.toThrow();
      // Everything it says can be changed.
      const known = form.fields.map(({ field }) => field);
      for (const field of Object.keys(blank).filter((name) => name !== "on" && !(form.on === "cloud" && name === "of")))
        expect(known, field).toContain(field);
    },
  );
  it("a blank with a price to come has a gap, a shift has none", () => {
    const gap = (on: string) => hasGap(FORMS.find((form) => form.on === on)?.blank("P1D") as WrittenCondition);
    expect([gap("close"), gap("market"), gap("shift"), gap("time")]).toEqual([true, true, false, false]);
  });
  it("a rung that is none of the set can still be chosen", () =>
    expect(rungOptions(["P1D"], "PT3M")).toEqual([
      ["P1D", "Day"],
      ["PT3M", "3 min"],
    ]));
});

describe("drafts", () => {
  const faults = (written: Written) => checkWritten(written, { ...facts, now: NOW }).map(({ path }) => path);
  it("among others is an alternate where one is preferred, with the weight that is left", () => {
    const preferred = { ...aWritten(), weight: 70 };
    expect(amongOthers(newDraft(NOW), [preferred])).toMatchObject({ role: "alternate", weight: 30 });
    expect(amongOthers(newDraft(NOW), [])).toMatchObject({ role: "preferred", weight: 50 });
    expect(amongOthers(newDraft(NOW), [{ ...preferred, weight: 100 }])).toMatchObject({ weight: 0 });
  });
  it("at an area goes back from it, and wants nothing but its targets", () => {
    const area = { bottom: 98, top: 99, weight: 3, reasons: [], rungs: ["P1D", "PT4H"] };
    const below = draftAt(area, { price: 103, atr: 2, rung: "PT4H", now: NOW }, market);
    expect(below.terms).toMatchObject({
      direction: "long",
      wrong: 97.5,
      orders: [{ entry: { price: 99 }, stop: 97.5 }],
    });
    expect(faults(below)).toEqual(["orders[0].targets[0].price"]);
    const above = draftAt(area, { price: 90, atr: 2, rung: "PT4H", now: NOW }, market);
    expect(above.terms).toMatchObject({ direction: "short", wrong: 99.5, orders: [{ entry: { price: 98 } }] });
  });
  it("of the round is whole: twice and three times the risk away, doubtful and without weight", () => {
    const area = { bottom: 98, top: 99, weight: 3, reasons: [], rungs: ["P1D", "PT4H"] };
    const written = scenarioAt(area, { price: 103, atr: 2, rung: "PT4H", now: NOW }, market);
    expect(faults(written)).toEqual([]);
    expect(written).toMatchObject({ rank: "doubtful", weight: 0 });
    expect(written.terms.orders[0].targets.map(({ price }) => price)).toEqual([102, 103.5]);
  });
  it("of a count waits for its price or, along the trend, for a close, and is wrong where the count dies", () => {
    const asks = {
      ...{ direction: "long" as const, title: "Minor wave 3", premise: "p", entry: 96, stop: 94, invalidation: 93.4 },
      ...{ targets: [108, 112], path: [] },
    };
    const limit = draftFromCount({ ...asks, order: "limit" }, "c", { rung: "P1D", now: NOW }, market, false);
    expect(limit).toMatchObject({
      restsOn: "c",
      role: "preferred",
      terms: { wrong: 93.4, if: [{ when: { on: "touch" } }] },
    });
    const along = draftFromCount({ ...asks, order: "market" }, "c", { rung: "P1D", now: NOW }, market, true);
    expect(along).toMatchObject({ role: "alternate", terms: { if: [{ when: { on: "close", price: 94 } }] } });
    expect([faults(limit), faults(along)]).toEqual([[], []]);
  });
});
