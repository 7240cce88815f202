import { describe, expect, it } from "vitest";
import { parseNumber } from "../../../parts/numbers.ts";
import { checkFields, emptyFields, fieldsOf, scenarioOf, type ScenarioFields } from "./scenarioForm.ts";

const ID = "00000000-0000-4000-8000-000000000000";
const NOW = Date.UTC(2026, 9, 14);
const filled: ScenarioFields = {
  ...emptyFields("P1D", NOW, "utc"),
  title: "A",
  triggerPrice: "404,10",
  entry: "405.5",
  stop: "398.90",
  target1: "421.90",
  target2: "441.60",
  invalidation: "391.20",
};
const faults = (change: Partial<ScenarioFields>) =>
  Object.keys(checkFields(scenarioOf({ ...filled, ...change }, ID, "utc"), NOW).faults);

describe("the scenario as it is typed", () => {
  it("becomes a scenario and comes back as it was", () => {
    const scenario = scenarioOf(filled, ID, "utc");
    expect(scenario).toMatchObject({
      trigger: { price: 404.1 },
      targets: [
        { price: 421.9, share: 0.5 },
        { price: 441.6, share: 0.5 },
      ],
    });
    expect(scenarioOf(fieldsOf(scenario, 2, "utc"), ID, "utc")).toEqual(scenario);
    expect(checkFields(scenario, NOW)).toEqual({ faults: {}, warnings: [] });
  });
  it.each<[Partial<ScenarioFields>, string]>([
    [{ title: "" }, "title"],
    [{ title: "x".repeat(81) }, "title"],
    [{ stop: "" }, "stop"],
    [{ stop: "abc" }, "stop"],
    [{ stop: "410" }, "stop"],
    [{ entry: "-1" }, "entry"],
    [{ triggerPrice: "1.2.3" }, "triggerPrice"],
    [{ target1: "", target2: "" }, "target1"],
    [{ target2: "1" }, "target2"],
    [{ invalidation: "500" }, "invalidation"],
    [{ expiry: "" }, "expiry"],
    [{ expiry: "2020-01-01T00:00" }, "expiry"],
    [{ premise: "x".repeat(1001) }, "premise"],
  ])("%j marks its field", (change, field) => expect(faults(change)).toContain(field));
  it("one target takes the whole position", () =>
    expect(scenarioOf({ ...filled, target2: "" }, ID, "utc").targets).toEqual([{ price: 421.9, share: 1 }]));
});

describe("typed numbers", () => {
  it.each([
    ["412.65", 412.65],
    ["412,65", 412.65],
    ["\u22123", -3],
    ["1\u2009234,5", 1234.5],
    ["1 234", 1234],
    [" .5 ", 0.5],
  ])("%j is read", (text, value) => expect(parseNumber(text)).toBe(value));
  it.each(["", "1,234.5", "1.234,5", "1e5", "0x1", "--1", "twelve", "Infinity"])("%j is none", (text) =>
    expect(parseNumber(text)).toBeNaN(),
  );
});
