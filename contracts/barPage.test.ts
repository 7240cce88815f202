import { describe, expect, it } from "vitest";
import { barPageHeaders, readBarPageHead } from "./barPage.ts";

describe("the head of a page of bars", () => {
  const head = { start: 4096, revision: 12, history: 0 };
  it("is read as it was written", () => expect(readBarPageHead(new Headers(barPageHeaders(head)))).toEqual(head));
  it.each([
    ["nothing", {}],
    ["no start", { ...barPageHeaders(head), "X-Start": "" }],
    ["a revision that is no number", { ...barPageHeaders(head), "X-Revision": "twelve" }],
    ["a history below zero", { ...barPageHeaders(head), "X-History": "-1" }],
  ])("with %s is none of ours", (_what, headers) =>
    expect(() => readBarPageHead(new Headers(headers as Record<string, string>))).toThrow(/came without "X-/),
  );
});
