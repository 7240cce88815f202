import type { Request, Response } from "express";
import { describe, expect, it, vi } from "vitest";
import { sameOriginOnly } from "./guards.ts";

/** What becomes of a request: passed on, or the status it is answered with. */
function outcome(method: string, headers: Record<string, string>): "passed" | number {
  let status: number | undefined;
  const response = {
    status: (code: number) => ((status = code), response),
    type: () => response,
    send: () => response,
  } as unknown as Response;
  const next = vi.fn();
  sameOriginOnly(
    { method, headers, protocol: headers.host === "compass.example" ? "https" : "http" } as unknown as Request,
    response,
    next,
  );
  return next.mock.calls.length > 0 ? "passed" : (status ?? -1);
}

describe("requests that change something", () => {
  it.each(["GET", "HEAD"])("%s changes nothing and passes from anywhere", (method) => {
    expect(outcome(method, { host: "compass.example", origin: "http://elsewhere.example" })).toBe("passed");
  });
  it.each<[string, Record<string, string>, "passed" | number]>([
    ["a page of the site", { host: "compass.example", origin: "https://compass.example" }, "passed"],
    ["a page of the site on its port", { host: "127.0.0.1:4310", origin: "http://127.0.0.1:4310" }, "passed"],
    [
      "a page of the site that was not sent over TLS",
      { host: "compass.example", origin: "http://compass.example" },
      403,
    ],
    ["another site", { host: "compass.example", origin: "https://elsewhere.example" }, 403],
    [
      "a site that begins like ours",
      { host: "compass.example", origin: "https://compass.example.elsewhere.example" },
      403,
    ],
    ["another port of the same machine", { host: "127.0.0.1:4310", origin: "http://127.0.0.1:9999" }, 403],
    ["a sandboxed frame", { host: "compass.example", origin: "null" }, 403],
    ["nobody who says so", { host: "compass.example" }, 403],
    ["nonsense", { host: "compass.example", origin: "::::" }, 403],
  ])("POST from %s", (_who, headers, expected) => {
    for (const method of ["POST", "PUT", "DELETE", "PATCH"]) expect(outcome(method, headers)).toBe(expected);
  });
});
