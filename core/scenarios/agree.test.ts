import { describe, expect, it } from "vitest";
import { bothEvaluators } from "#core/testing/bothEvaluators";
import { RandomScenarios } from "#core/testing/randomScenarios";

describe("two evaluators that share nothing", () => {
  it("tell the same of random scenarios over mixed resolutions", () => {
    const random = new RandomScenarios(20261128);
    const seen = new Map<string, number>();
    for (let n = 0; n < 1500; n++) {
      const one = random.next();
      const { ours, theirs } = bothEvaluators(one);
      const { events } = ours;
      const where = `case ${n}: ${JSON.stringify(one.scenario)}`;
      expect(rounded(events), where).toEqual(rounded(theirs.events));
      expect(rounded(ours.result), where).toEqual(rounded(theirs.result));
      for (const { event, ambiguous } of events) count(event, ambiguous === true);
    }
    // A comparison of nothing proves nothing: each kind of event came, certain ones and ambiguous ones.
    for (const event of [
      "step",
      "triggered",
      "entered",
      "target",
      "breakEven",
      "stopped",
      "completed",
      "invalid",
      "expired",
      "cancelled",
      "missed",
      "passed",
    ])
      expect(seen.get(event) ?? 0, event).toBeGreaterThan(10);
    expect(seen.get("ambiguous") ?? 0).toBeGreaterThan(100);

    function count(event: string, ambiguous: boolean): void {
      seen.set(event, (seen.get(event) ?? 0) + 1);
      if (ambiguous) seen.set("ambiguous", (seen.get("ambiguous") ?? 0) + 1);
    }
  });
});

function rounded(value: unknown): unknown {
  return JSON.parse(JSON.stringify(value), (_key, one: unknown) =>
    typeof one === "number" ? Math.round(one * 1e9) / 1e9 + 0 : one,
  );
}
