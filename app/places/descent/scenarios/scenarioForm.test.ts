import { describe, expect, it } from "vitest";
import { parseNumber } from "../../../parts/numbers.ts";
import { checkFields, emptyFields, fieldsOf, planOf, type PlanFields } from "./scenarioForm.ts";

const ID = "00000000-0000-4000-8000-000000000000";
const NOW = Date.UTC(2026, 9, 14);
const filled: PlanFields = {
  ...emptyFields("P1D", NOW, "utc"),
  title: "A",
  triggerPrice: "404,10",
  entry: "405.5",
  stop: "398.90",
  target1: "421.90",
  target2: "441.60",
  invalidation: "391.20",
};
const faults = (change: Partial<PlanFields>) =>
  Object.keys(checkFields(planOf({ ...filled, ...change }, ID, "utc"), NOW).faults);

describe("the scenario as it is typed", () => {
  it("becomes a plan and comes back as it was", () => {
    const plan = planOf(filled, ID, "utc");
    expect(plan).toMatchObject({
      trigger: { price: 404.1 },
      targets: [
        { price: 421.9, share: 0.5 },
        { price: 441.6, share: 0.5 },
      ],
    });
    expect(planOf(fieldsOf(plan, 2, "utc"), ID, "utc")).toEqual(plan);
    expect(checkFields(plan, NOW)).toEqual({ faults: {}, warnings: [] });
  });
  it.each<[Partial<PlanFields>, string]>([
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
    expect(planOf({ ...filled, target2: "" }, ID, "utc").targets).toEqual([{ price: 421.9, share: 1 }]));
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
