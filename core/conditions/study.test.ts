import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ConditionFault } from "#core/conditions/fields";
import { conditionOf, readTerms, type Terms } from "#core/conditions/registry";
import { ASKED_STUDIES } from "#core/conditions/study";
import { asInstant } from "#core/observe/instant";
import { usualOf } from "#core/studies/params";
import { columnsOf } from "#core/studies/study";
import { layer, momentsOf } from "#core/testing/told";
import { sp500 } from "#core/testing/openData";
import { slice } from "#core/series/series";

const series = slice(sp500(), 0, 400);

/** What a condition says at each close: met, failed, or "?" where that is not known. */
function judge(raw: unknown): string {
  const terms: Terms = readTerms(raw, "c");
  const condition = conditionOf(terms);
  let state = condition.start(terms);
  let said = "";
  for (const moment of momentsOf([layer("P1D", series)], condition.needs(terms))) {
    const look = { moment, since: asInstant(0), tolerance: 1e-5, zone: "UTC", met: [] };
    const step = condition.next(terms, state, look);
    state = JSON.parse(JSON.stringify(step.state)) as unknown;
    said += step.judged.map(({ met }) => (met === undefined ? "?" : met ? "x" : ".")).join("");
  }
  return said;
}

describe("the condition on any study", () => {
  it("says of an oscillator and an average what those conditions say", () => {
    const rsi = { on: "oscillator", of: { quantity: "rsi", period: 14 }, above: 55, below: 70 };
    expect(judge({ ...rsi, on: "study" })).toBe(judge(rsi));
    const ema = { on: "average", of: { quantity: "ema", period: 20 }, side: "below" };
    expect(judge({ ...ema, on: "study" })).toBe(judge(ema));
    expect(judge(rsi)).toMatch(/x.*\./);
  });
  it("holds one line against another", () => {
    const of = { quantity: "macd", fast: 12, slow: 26, signal: 9 };
    const line = judge({ on: "study", of, side: "above", line: "macd", than: "signal" });
    expect(line).toBe(judge({ on: "study", of, line: "histogram", above: 0 }));
    expect(line).toMatch(/x.*\./);
  });
  it.each(ASKED_STUDIES.map(({ name }) => name))("%s: is judged by what the study is over all bars", (name) => {
    const study = ASKED_STUDIES.find((one) => one.name === name)!;
    const params = Object.fromEntries(study.parameters.map((one) => [one.name, usualOf(one)!]));
    const line = study.main ?? study.lines[0].name;
    const column = columnsOf(study, params, series, { tick: 0 })[study.lines.findIndex((one) => one.name === line)];
    fc.assert(
      fc.property(fc.nat(series.length - 1), (i) => {
        const at = Number.isNaN(column[i]) ? 0 : column[i];
        const expected = [...column].map((value) => (Number.isNaN(value) ? "?" : value > at ? "x" : ".")).join("");
        expect(judge({ on: "study", of: { quantity: name, ...params }, above: at })).toBe(expected);
      }),
      { numRuns: 3 },
    );
  });
  it.each([
    [{ of: { quantity: "rsi", period: 0 }, above: 1 }, "whole number from 1"],
    [{ of: { quantity: "rsi", colour: 3 }, above: 1 }, "is not known here"],
    [{ of: { quantity: "pivotLevels" }, above: 1 }, "must be"],
    [{ of: { quantity: "correlation" }, above: 1 }, "must be"],
    [{ of: { quantity: "rsi" } }, 'is wanted, or a number "above" or "below"'],
    [{ of: { quantity: "sma", period: 5 }, side: "above", above: 3 }, "not both"],
    [{ of: { quantity: "rsi" }, side: "above" }, "a scale of its own"],
    [{ of: { quantity: "macd" }, line: "k", above: 1 }, "must be"],
  ])("%j is refused in a sentence", (terms, sentence) => {
    expect(() => readTerms({ on: "study", ...terms }, "c")).toThrow(ConditionFault);
    expect(() => readTerms({ on: "study", ...terms }, "c")).toThrow(sentence);
  });
  it("is said in words", () => {
    const say = (raw: unknown) => {
      const terms = readTerms(raw, "c");
      return conditionOf(terms).say(terms, { decimals: 2 });
    };
    expect(say({ on: "study", of: { quantity: "commodityChannel" }, above: 100, rung: "PT4H" })).toBe(
      "the CCI 20, 0.015 stands above 100 at a close of a 4 h candle",
    );
    expect(say({ on: "study", of: { quantity: "donchian" }, line: "upper", side: "above" })).toBe(
      "a candle closes above the upper of High-low channel 20",
    );
    expect(say({ on: "study", of: { quantity: "macd" }, side: "above", than: "signal" })).toBe(
      "the macd of MACD 12, 26, 9 stands above its signal at a close of a candle",
    );
  });
});
