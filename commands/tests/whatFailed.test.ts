import { describe, expect, it } from "vitest";
import { countPlaywright, countVitest } from "./whatFailed.ts";

const passed = { fullName: "a tick is a tick", status: "passed", failureMessages: [] };
const failed = {
  ...{ fullName: "a bar is a bar", status: "failed" },
  failureMessages: ["\u001b[31mAssertionError\u001b[39m: 1 is not 2\n at somewhere"],
};
const file = (assertionResults: (typeof failed)[], message = "") => ({
  ...{ name: "core/bars.test.ts", status: assertionResults.includes(passed) ? "passed" : "failed", message },
  assertionResults,
});

describe("what a run of tests comes to", () => {
  it("is nothing to tell where all passed", () => {
    const report = { numPassedTests: 1, numFailedTests: 0, testResults: [file([passed])] };
    expect(countVitest(report, 0)).toEqual({ passed: 1, failed: 0, told: [] });
  });

  it("names what failed and what it said first, without colours", () => {
    const report = { numPassedTests: 1, numFailedTests: 1, testResults: [file([passed, failed])] };
    const { failed: count, told } = countVitest(report, 1);
    expect(count).toBe(1);
    expect(told).toEqual([
      "FAILED core/bars.test.ts › a bar is a bar\n    AssertionError: 1 is not 2\n     at somewhere",
    ]);
  });

  it("has failed where a file could not be loaded, or the runner ended badly, though no test did", () => {
    const unloaded = { numPassedTests: 0, numFailedTests: 0, testResults: [file([], "Cannot find module 'x'")] };
    expect(countVitest(unloaded, 1)).toMatchObject({ failed: 1, told: [expect.stringContaining("Cannot find")] });
    const killed = { numPassedTests: 1, numFailedTests: 0, testResults: [file([passed])] };
    expect(countVitest(killed, 137)).toMatchObject({ failed: 1, told: ["FAILED: the runner ended with 137."] });
  });

  it("tells of a browser test that passed only the second time, and counts it as passed", () => {
    const test = (status: string, message?: string) => ({
      ...{ title: `is ${status}`, file: "e2e/a.spec.ts", line: 7 },
      tests: [{ status, results: [message ? { error: { message } } : {}, {}] }],
    });
    const inner = { specs: [test("flaky", "waited too long"), test("expected")] };
    const report = {
      stats: { expected: 1, unexpected: 1, flaky: 1 },
      suites: [{ specs: [test("unexpected", "is not there")], suites: [inner] }],
    };
    expect(countPlaywright(report, 1)).toEqual({
      ...{ passed: 2, failed: 1 },
      told: [
        "FAILED e2e/a.spec.ts:7 › is unexpected\n    is not there",
        "PASSED ONLY THE SECOND TIME e2e/a.spec.ts:7 › is flaky\n    waited too long",
      ],
    });
  });
});
