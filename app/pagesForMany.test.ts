import type { EntryContext } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { digestOfPage, hasPage, NO_NONCE, pageForMany } from "./pagesForMany.ts";

const asked = (path = "/outlooks/3", headers = {}) => new Request(`http://desk.example${path}`, { headers });

/** What a page is rendered from, with what a test changes of it. */
function entry(
  changes: { data?: unknown; handle?: unknown; actionData?: unknown; errors?: unknown } = {},
): EntryContext {
  const { data = { title: "Tin" }, handle = { isForMany: true }, actionData = null, errors = null } = changes;
  return {
    manifest: { version: "v1" },
    routeModules: { frame: { handle }, page: {} },
    staticHandlerContext: {
      ...{ loaderData: { frame: null, page: data }, actionData, errors },
      matches: [{ route: { id: "frame" } }, { route: { id: "page" } }],
    },
  } as unknown as EntryContext;
}

describe("pages for many", () => {
  it("are the same where address and what was found are the same", () => {
    const digest = digestOfPage(asked(), 200, entry());
    expect(digest).toMatch(/^[\w-]{43}$/);
    expect(digestOfPage(asked("/outlooks/3", { cookie: "another" }), 200, entry())).toBe(digest);
    expect(digestOfPage(asked("/outlooks/3?as=paper"), 200, entry())).not.toBe(digest);
    expect(digestOfPage(asked(), 200, entry({ data: { title: "Tin", price: undefined } }))).not.toBe(digest);
    expect(digestOfPage(asked(), 200, entry({ data: { title: "tin" } }))).not.toBe(digest);
  });

  it("are none that is made for one person, answers a form, tells of a failure or is not there yet", () => {
    expect(digestOfPage(asked(), 200, entry({ handle: {} }))).toBeUndefined();
    expect(digestOfPage(asked(), 200, entry({ actionData: { page: { said: "It is sent." } } }))).toBeUndefined();
    expect(digestOfPage(asked(), 200, entry({ errors: { page: new Error("away") } }))).toBeUndefined();
    expect(digestOfPage(asked(), 403, entry())).toBeUndefined();
    expect(digestOfPage(asked(), 200, entry({ data: { later: Promise.resolve(1) } }))).toBeUndefined();
  });

  it("are rendered once and sent under each answer's own secret word", async () => {
    const render = vi.fn(() => Promise.resolve(`<script nonce="${NO_NONCE}">1</script><style nonce="${NO_NONCE}">`));
    const first = await pageForMany("a digest", "one", render);
    const second = await pageForMany("a digest", "two", render);
    expect(render).toHaveBeenCalledTimes(1);
    expect(first).toBe('<script nonce="one">1</script><style nonce="one">');
    expect(second).toBe('<script nonce="two">1</script><style nonce="two">');
  });

  it("are not kept where they could not be rendered", async () => {
    await expect(pageForMany("broken", "one", () => Promise.reject(new Error("no")))).rejects.toThrow("no");
    expect(await pageForMany("broken", "one", () => Promise.resolve("whole"))).toBe("whole");
  });

  // RFC 9110, 13.1.2: a list of tags, compared weakly.
  it("are not sent again to a browser that has them", () => {
    const tag = 'W/"abc"';
    for (const header of ['W/"abc"', '"abc"', '"x", W/"abc"', ' "abc" ']) expect(hasPage(header, tag)).toBe(true);
    for (const header of ['"ab"', "abc", '"abc', ""]) expect(hasPage(header, tag)).toBe(false);
  });
});
