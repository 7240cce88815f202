import { Readable } from "node:stream";
import { text } from "node:stream/consumers";
import { describe, expect, it } from "vitest";
import { withStyles, type StyleCache } from "./pageStyles.ts";

const page = (cache: StyleCache, ...pieces: (string | Buffer)[]) =>
  text(Readable.from(pieces.map((piece) => Buffer.from(piece))).pipe(withStyles(cache, "n")));
const cache = (inserted: StyleCache["inserted"]): StyleCache => ({ key: "css", inserted });
const STYLE = '<style nonce="n" data-emotion="css a">.a{}</style>';

describe("the styles of a page", () => {
  it("stand at the end of its head, however it is cut into pieces: never before its document type", async () => {
    const whole = "<!DOCTYPE html><html><head><title>\u00e9</title></head><body>x</body>";
    const expected = whole.replace("</head>", `${STYLE}</head>`);
    const bytes = Buffer.from(whole);
    for (let at = 0; at <= bytes.length; at++)
      expect(await page(cache({ a: ".a{}" }), bytes.subarray(0, at), bytes.subarray(at))).toBe(expected);
  });
  it("that a later piece needs come before it, each once; what is known otherwise is left out", async () => {
    const inserted: Record<string, string | true> = { a: ".a{}", elsewhere: true };
    async function* pieces() {
      yield Buffer.from("<head></head>");
      inserted.b = ".b{}";
      yield Buffer.from("<p>late</p>");
      yield Buffer.from("<p>end</p>");
    }
    expect(await text(Readable.from(pieces(), { highWaterMark: 1 }).pipe(withStyles(cache(inserted), "n")))).toMatch(
      /<p>end<\/p>$/,
    );
    expect(await page(cache({ known: true }), "<head></head>", "<p>x</p>")).toBe("<head></head><p>x</p>");
  });
  it("a page without a head comes through as it is", async () =>
    expect(await page(cache({ a: ".a{}" }), "only", " words")).toBe("only words"));
});
