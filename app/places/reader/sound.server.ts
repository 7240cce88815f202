import type { Voice } from "../../../server/database/models.ts";

/** A recording as an answer; named by its digest, it never changes. */
export function soundOf({ type, bytes }: Pick<Voice, "type" | "bytes">): Response {
  return new Response(new Uint8Array(bytes), {
    headers: {
      "Content-Type": type,
      "Content-Length": String(bytes.length),
      "Cache-Control": "private, max-age=31536000, immutable",
      "Content-Security-Policy": "default-src 'none'; media-src 'self'",
    },
  });
}
