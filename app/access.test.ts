import { describe, expect, it, vi } from "vitest";
import { RouterContextProvider } from "react-router";
import { ConnectionRefusedError } from "sequelize";
import { DraftDto } from "#contracts/draft";
import type { Role } from "#core/readers/roles";
import { Failure } from "../server/failure.ts";
import { log } from "../server/log.ts";
import { underRequest } from "../server/requestId.ts";
import {
  answer,
  attempt,
  placeOfThisSite,
  readBody,
  readField,
  readForm,
  requireAnalyst,
  requireModerator,
  requireOwner,
  requirePerson,
  requireReviewer,
  textField,
} from "./access.server.ts";
import { personContext } from "./context.ts";

describe("where somebody goes on to after signing in", () => {
  it.each([
    ["/round", "/round"],
    ["/outlooks/1?x=1#y", "/outlooks/1?x=1#y"],
    ["/descent/../round", "/round"],
  ])("%s is of this site: %s", (then, place) => expect(placeOfThisSite(then)).toBe(place));
  it.each([
    null,
    "",
    "round",
    "//evil.example",
    "/\\evil.example",
    "\\\\evil.example",
    "/\t/evil.example",
    "/\n/evil.example",
    "https://evil.example",
    "javascript:alert(1)",
    "http://[",
    "/%09/evil.example\t//x",
    "/.//evil.example",
  ])("%j leads to the front door or stays here", (then) => {
    const place = placeOfThisSite(then);
    // As a browser would read it, on this very site.
    expect(new URL(place, "https://desk.example").host).toBe("desk.example");
    expect(place.startsWith("//")).toBe(false);
  });
});

const contextOf = (role?: Role) => {
  const context = new RouterContextProvider();
  context.set(personContext, role ? { id: "1", name: "A", role } : null);
  return context;
};
const request = (path = "/round", method = "GET") => new Request(`http://desk.example${path}`, { method });

/** Status of what a guard throws, with where it sends; "passed" when it lets pass. */
async function outcome(
  guard: typeof requirePerson,
  context: RouterContextProvider,
  asked = request(),
): Promise<string> {
  try {
    await guard({ request: asked, context });
    return "passed";
  } catch (thrown) {
    if (thrown instanceof Response) return `${thrown.status} ${thrown.headers.get("Location")}`;
    return String((thrown as { init: { status: number } }).init.status);
  }
}

describe("guards", () => {
  it.each([
    ["nobody", undefined, []],
    ["a reader", "subscriber", ["reads"]],
    ["a reviewer", "reviewer", ["reads", "reviews"]],
    ["a moderator", "moderator", ["reads", "moderates"]],
    ["an analyst", "analyst", ["reads", "reviews", "moderates", "works"]],
    ["an owner", "owner", ["reads", "reviews", "moderates", "works", "owns"]],
  ] as const)("%s", async (_who, role, passes) => {
    const guards = {
      ...{ reads: requirePerson, reviews: requireReviewer, moderates: requireModerator },
      ...{ works: requireAnalyst, owns: requireOwner },
    };
    for (const [what, guard] of Object.entries(guards)) {
      const [told] = (await outcome(guard, contextOf(role))).split(" ");
      const isLetIn = (passes as readonly string[]).includes(what);
      expect(told, what).toBe(isLetIn ? "passed" : role === undefined ? "302" : "403");
    }
  });
  it("nobody is sent to the sign-in with the way back, and told 401 where something would be changed", async () => {
    expect(await outcome(requirePerson, contextOf(), request("/outlooks/1?a=b"))).toBe(
      "302 /sign-in?then=%2Foutlooks%2F1%3Fa%3Db",
    );
    expect(await outcome(requirePerson, contextOf(), request("/round", "POST"))).toBe("401");
  });
});

describe("what is answered", () => {
  const told = async (error: unknown) => {
    try {
      await answer(contextOf(), () => Promise.reject(error as Error));
      return undefined;
    } catch (thrown) {
      const { data, init } = thrown as {
        data: { failure: { code: string; sentence: string } };
        init: { status: number; headers?: HeadersInit };
      };
      return {
        code: data.failure.code,
        status: init.status,
        sentence: data.failure.sentence,
        after: new Headers(init.headers).get("Retry-After"),
      };
    }
  };
  it("an expected failure with its sentence", async () =>
    expect(await told(new Failure("a", "It did not."))).toMatchObject({
      code: "a",
      status: 422,
      sentence: "It did not.",
      after: null,
    }));
  it.each([
    ["a file", Object.assign(new Error("write"), { code: "ENOSPC" })],
    ["the database", Object.assign(new Error("table is full"), { original: { errno: 1114 } })],
  ])("a disk that is full under %s with 507, and that nothing is lost", async (_of, error) => {
    const answered = await told(error);
    expect(answered).toMatchObject({ code: "disk", status: 507 });
    expect(answered?.sentence).toContain("disk is full");
  });
  it("what nobody expected with the request's number, under which the log has it once", async () => {
    const written = vi.spyOn(log, "error").mockImplementation(() => {});
    const work = () => answer(contextOf(), () => Promise.reject(new Error("secret inside")));
    const thrown = (await underRequest("r-9", work).catch((error: unknown) => error)) as { data: unknown };
    expect(thrown.data).toMatchObject({ failure: { code: "unexpected", requestId: "r-9" } });
    expect(JSON.stringify(thrown)).not.toContain("secret");
    expect(written).toHaveBeenCalledTimes(1);
    written.mockRestore();
  });
  it("a database that is away with 503, and when to try again", async () =>
    expect(await told(new ConnectionRefusedError(new Error("ECONNREFUSED")))).toMatchObject({
      code: "database",
      status: 503,
      after: "5",
    }));
  it("anything else calmly, without a word of what it was", async () => {
    const said = await told(new TypeError("secret path /var/x"));
    expect(said).toMatchObject({ code: "unexpected", status: 500 });
    expect(JSON.stringify(said)).not.toContain("secret");
  });
  it("what an action's page shows itself is returned, a redirection is thrown", async () => {
    expect(await attempt(contextOf(), () => Promise.reject(new Failure("a", "It did not.")))).toMatchObject({
      data: { failure: { code: "a" } },
    });
    const away = new Response(null, { status: 302 });
    await expect(attempt(contextOf(), () => Promise.reject(away as never))).rejects.toBe(away);
  });
});

describe("what is sent in", () => {
  const sent = (body: BodyInit, type?: string) =>
    new Request("http://desk.example/", { method: "POST", body, headers: type ? { "Content-Type": type } : {} });
  const codeOf = async (work: Promise<unknown>) =>
    work.then(
      () => "taken",
      (error: Failure) => `${error.code} ${error.status}`,
    );
  const good = { version: 1, title: "T", kind: "morning", blocks: [] };
  it.each<[string, Request, string]>([
    ["JSON as it should be", sent(JSON.stringify(good), "application/json"), "taken"],
    ["JSON that says it is text", sent(JSON.stringify(good), "text/plain"), "body 415"],
    ["no JSON", sent("{", "application/json"), "body 400"],
    ["null", sent("null", "application/json"), "fields 400"],
    ["a field too many", sent(JSON.stringify({ ...good, more: 1 }), "application/json"), "fields 400"],
    ["half a letter", sent(JSON.stringify({ ...good, title: "\ud800" }), "application/json"), "fields 400"],
  ])("%s", async (_what, asked, code) => expect(await codeOf(readBody(asked, DraftDto))).toBe(code));
  it.each<[string, Request, string]>([
    ["a form", sent(new URLSearchParams({ a: "b" })), "taken"],
    ["a form of a kind there is none of", sent("a=b", "text/plain"), "body 400"],
    ["a form in parts without any", sent("x", "multipart/form-data; boundary=y"), "body 400"],
    ["a form in parts without saying where they end", sent("x", "multipart/form-data"), "body 400"],
  ])("%s", async (_what, asked, code) => expect(await codeOf(readForm(asked))).toBe(code));
  it("a field that is a file, or missing, is no text", async () => {
    const form = new FormData();
    form.set("file", new Blob(["x"]));
    form.set("draft", JSON.stringify(good));
    const read = await readForm(sent(form));
    expect([textField(read, "file"), textField(read, "none")]).toEqual(["", ""]);
    expect(readField(read, "draft", DraftDto)).toMatchObject({ title: "T" });
  });
});
