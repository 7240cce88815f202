import { Transform } from "node:stream";

/** The styles of a page as they have been made so far, by name. */
export interface StyleCache {
  key: string;
  inserted: Readonly<Record<string, string | true | undefined>>;
}

const HEAD_ENDS = "</head>";

/**
 * Puts the styles of a page, under its nonce, at the end of its head, and what later pieces need before them. The
 * beginning is held until the head has ended: a style before the page's document type would put browsers into the ways
 * of twenty years ago.
 */
export function withStyles(cache: StyleCache, nonce: string): Transform {
  const sent = new Set<string>();
  let held: Buffer | undefined = Buffer.alloc(0);
  const fresh = () => {
    const names = Object.keys(cache.inserted).filter(
      (name) => !sent.has(name) && typeof cache.inserted[name] === "string",
    );
    names.forEach((name) => sent.add(name));
    if (names.length === 0) return "";
    const css = names.map((name) => cache.inserted[name]).join("");
    return `<style nonce="${nonce}" data-emotion="${cache.key} ${names.join(" ")}">${css}</style>`;
  };
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      if (held === undefined) {
        const style = fresh();
        return done(null, style === "" ? chunk : Buffer.concat([Buffer.from(style), chunk]));
      }
      held = Buffer.concat([held, chunk]);
      const head = held.indexOf(HEAD_ENDS);
      if (head < 0) return done();
      const whole = Buffer.concat([held.subarray(0, head), Buffer.from(fresh()), held.subarray(head)]);
      held = undefined;
      done(null, whole);
    },
    flush(done) {
      done(null, held);
    },
  });
}
