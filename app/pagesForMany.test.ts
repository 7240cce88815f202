import { createHash } from "node:crypto";
import { brotliDecompressSync, gunzipSync } from "node:zlib";
import type { EntryContext } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { bytesOf, digestOfPage, hasPage, headersOf, OURS, pageForMany } from "./pagesForMany.ts";

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

  it("are rendered once, and name their own scripts and styles instead of bearing a secret word", async () => {
    const ours = ` nonce="${OURS}"`;
    const text =
      `<link rel="modulepreload"${ours} href="/a.js"><style${ours} data-emotion="css a">a{}</style>` +
      `<script${ours}>one()</script><script${ours} src="/a.js"></script><script type="module"${ours}>\ntwo()</script>` +
      `<script>of somebody else()</script>`;
    const render = vi.fn(() => Promise.resolve(text));
    const [page, same] = await Promise.all([pageForMany("a digest", render), pageForMany("a digest", render)]);
    expect(same).toBe(page);
    expect(await pageForMany("a digest", render)).toBe(page);
    expect(render).toHaveBeenCalledTimes(1);
    expect(page.text).toBe(text.replaceAll(ours, ""));
    // CSP level 3, 2.3.1: the digest of what stands between the tags.
    const named = (inner: string) => `'sha256-${createHash("sha256").update(inner).digest("base64")}'`;
    expect(page.scripts).toEqual([named("one()"), named("\ntwo()")]);
    // That of nothing at all, as browsers say it.
    expect(page.styles).toEqual([named("a{}"), "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='"]);
  });

  it("that say the word they were rendered under elsewhere are not sent", async () => {
    const told = () => Promise.resolve(`<p>${OURS}</p>`);
    await expect(pageForMany("told", told)).rejects.toThrow("the word");
  });

  it("are the same bytes in every coding", async () => {
    const page = await pageForMany("coded", () => Promise.resolve(`<p>${"Tin holds. ".repeat(500)}\u00d7</p>`));
    const [br, gzip, plain] = await Promise.all((["br", "gzip", "identity"] as const).map((one) => bytesOf(page, one)));
    expect(brotliDecompressSync(br).toString()).toBe(page.text);
    expect(gunzipSync(gzip).toString()).toBe(page.text);
    expect(plain.toString()).toBe(page.text);
    expect(br.length).toBeLessThan(plain.length / 10);
    expect(await bytesOf(page, "br")).toBe(br);
    expect(headersOf("x", "br")).toMatchObject({ "Content-Encoding": "br", Vary: "Cookie, Accept-Encoding" });
    expect(headersOf("x", "identity")).not.toHaveProperty("Content-Encoding");
  });

  it("are not kept where they could not be rendered", async () => {
    await expect(pageForMany("broken", () => Promise.reject(new Error("no")))).rejects.toThrow("no");
    expect((await pageForMany("broken", () => Promise.resolve("whole"))).text).toBe("whole");
  });

  // RFC 9110, 13.1.2: a list of tags, compared weakly.
  it("are not sent again to a browser that has them", () => {
    const tag = 'W/"abc"';
    for (const header of ['W/"abc"', '"abc"', '"x", W/"abc"', ' "abc" ']) expect(hasPage(header, tag)).toBe(true);
    for (const header of ['"ab"', "abc", '"abc', ""]) expect(hasPage(header, tag)).toBe(false);
  });
});
