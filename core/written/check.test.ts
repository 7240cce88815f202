import { describe, expect, it } from "vitest";
import { aWritten, facts, NOW } from "#core/testing/written";
import { checkWritten } from "#core/written/check";
import type { Written, WrittenOrder, WrittenTerms } from "#core/written/written";

const said = (written: Written, markets?: string[]) =>
  checkWritten(written, { ...facts, ...(markets ? { markets } : {}) }).map(
    ({ path, sentence, severity }) => `${severity} ${path}: ${sentence}`,
  );
const problems = (terms: Partial<WrittenTerms>, order: Partial<WrittenOrder> = {}) => said(aWritten(terms, order));
const close = (side: string, price: number, rung = "P1D") => ({ on: "close", side, price, rung });

describe("what is wrong with a scenario as it is written", () => {
  it("nothing, when nothing is", () => expect(said(aWritten())).toEqual([]));
  it.each<[string, Partial<WrittenTerms>, Partial<WrittenOrder>, RegExp]>([
    ["a stop on the wrong side", {}, { stop: 103 }, /^fault orders\[0\]\.stop: The stop of a long stands below/],
    [
      "a target on the wrong side",
      {},
      { targets: [{ price: 99, share: 1 }] },
      /targets\[0\]\.price: A target of a long/,
    ],
    [
      "targets out of order",
      {},
      {
        targets: [
          { price: 106, share: 0.5 },
          { price: 104, share: 0.5 },
        ],
      },
      /targets\[1\]\.price: Target 2 stands beyond the one before/,
    ],
    ["wrong above the entry of a long", { wrong: 102 }, {}, /^fault wrong: A long is wrong below its entry/],
    ["expiry before now", { expires: new Date(NOW - 1).toISOString() }, {}, /^fault expires: It would have lapsed/],
    ["expiry that is no date", { expires: "soon" }, {}, /^fault expires: It must be an instant/],
    [
      "shares that do not sum",
      {},
      { targets: [{ price: 104, share: 0.7 }] },
      /^fault orders\[0\]\.targets: .*sum to 0\.7/,
    ],
    ["a price that is missing", {}, { stop: null }, /^fault orders\[0\]\.stop: A price is missing here/],
    ["a price off the grid", {}, { stop: 98.04 }, /^warning orders\[0\]\.stop: 98\.04 lies between two prices/],
    [
      "a step that While forbids",
      { while: [close("above", 100)], if: [{ when: close("below", 99.5) }] },
      {},
      /^fault if\[0\]\.when: It cannot come while every close is above 100\.0/,
    ],
    [
      "a step that is what ends it",
      { if: [{ when: close("above", 101) }], unless: [close("above", 101)] },
      {},
      /^fault if\[0\]\.when: This step is what ends the scenario, too/,
    ],
    [
      "a step beyond where it is wrong",
      { if: [{ when: { on: "sweep", side: "low", price: 96, rung: "P1D", within: 0 } }] },
      {},
      /^fault if\[0\]\.when: Price would be below where it is wrong/,
    ],
    [
      "a bind to a step that is not there",
      {},
      { stop: { bind: "barLow", step: 2 } },
      /^fault orders\[0\]\.stop: It speaks of step 2; there are 1/,
    ],
    [
      "a reward without steps",
      { if: [] },
      { targets: [{ price: { r: 2 }, share: 1 }] },
      /targets\[0\]\.price: .*there are no steps/,
    ],
  ])("%s", (_what, terms, order, sentence) => {
    const found = problems(terms, order);
    expect(found.filter((one) => sentence.test(one))).toHaveLength(1);
  });
  it("what is said twice at a field is said once, and a while on another rung forbids nothing", () => {
    expect(problems({ while: [close("above", 100)], if: [{ when: close("below", 99.5, "PT1H") }] })).toEqual([]);
    const two = problems({}, { stop: null, targets: [{ price: null, share: 1 }] });
    expect(two).toHaveLength(2);
  });
  it("another market that has been removed", () => {
    const on = { on: "market", market: "gone", when: close("above", 5) };
    expect(said(aWritten({ while: [on] }), ["there"])).toEqual([
      'fault while[0].market: There is no market "gone" any more; choose another or leave it out.',
    ]);
    expect(said(aWritten({ while: [on] }), ["gone"])).toEqual([]);
  });
  it("a short is mirrored", () =>
    expect(
      problems(
        { direction: "short", if: [{ when: close("below", 99) }], wrong: 103 },
        { stop: 97, targets: [{ price: 95, share: 1 }] },
      ),
    ).toEqual(["fault orders[0].stop: The stop of a short stands above its entry."]));
});
