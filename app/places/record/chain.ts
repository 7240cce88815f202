import { createReadStream, statSync } from "node:fs";
import { Readable } from "node:stream";
import { chainPart } from "../../../server/record/chain.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/chain.ts";

/**
 * The record's chain and heads, for anybody to keep: digests and signatures, nothing of what they are of. It comes in
 * parts of a thousand entries; `next` of one is `after` of the one behind it.
 */
export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const after = Number(new URL(request.url).searchParams.get("after") ?? 0);
    const part = await chainPart(after);
    const headers = {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="chain-${after}.json"`,
      // A full part never changes again.
      "Cache-Control": "file" in part ? "public, max-age=31536000, immutable" : "no-cache",
    };
    if ("text" in part) return new Response(part.text, { headers });
    const body = Readable.toWeb(createReadStream(part.file)) as ReadableStream<Uint8Array>;
    return new Response(body, { headers: { ...headers, "Content-Length": String(statSync(part.file).size) } });
  });
}
