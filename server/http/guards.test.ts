import { readFileSync } from "node:fs";
import type { Request, Response } from "express";
import { describe, expect, it, vi } from "vitest";
import { loggedPath, properRequests, sameOriginOnly } from "./guards.ts";
import { plainAddress } from "./parameters.ts";

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

describe("what is written down of a request", () => {
  it("holds no token, wherever the table of routes has one", () => {
    const routes = [...readFileSync("app/routes.ts", "utf8").matchAll(/route\("([^"]*:token[^"]*)"/g)].map(
      ([, one]) => one,
    );
    expect(routes.length).toBeGreaterThan(5);
    for (const route of routes) {
      const path = `/${route.replace(":token", "s3cret").replace(":file", "outlooks.atom")}`;
      expect(loggedPath(path)).not.toContain("s3cret");
      expect(loggedPath(`${path}.data`)).not.toContain("s3cret");
    }
    expect(loggedPath("/outlooks/17")).toBe("/outlooks/17");
  });
});

describe("an address", () => {
  const asked = (url: string) => {
    let status = 0;
    const response = {
      status: (code: number) => ((status = code), response),
      ...{ type: () => response, send: () => response, setHeader: () => response },
    } as unknown as Response;
    properRequests({ method: "POST", url, headers: { host: "a.example" } } as Request, response, () => (status = 200));
    return status;
  };
  it.each([
    "/unsubscribe/../account",
    "/unsubscribe/%2e%2e/account",
    "/api/./../account",
    "/unsubscribe/..\\account",
    "/a/%2E./b",
  ])("%s is none: its parts would be read otherwise by those behind", (url) => expect(asked(url)).toBe(400));
  it.each(["/outlooks/17", "/archive?words=../..", "/markets/a..b", "/feeds/t/outlooks.atom"])("%s is one", (url) =>
    expect(asked(url)).toBe(200),
  );
  it.each([
    ["/outlooks?x=1", "/outlooks"],
    ["/outlooks/17?x=2&as=paper", "/outlooks/17?as=paper"],
    ["/archive?page=2&y=3&words=tin", "/archive?words=tin&page=2"],
    ["/archive", "/archive"],
    ["/round?stop=3", "/round?stop=3"],
    ["/outlooks/17/picture/0?layout=phone", "/outlooks/17/picture/0?layout=phone"],
  ])("%s is asked for as %s: a made-up parameter has no page made again", (address, plain) => {
    expect(plainAddress(address)).toBe(plain);
  });
});
