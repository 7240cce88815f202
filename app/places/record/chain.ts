import { chainFile } from "../../../server/record/file.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/chain.ts";

/** The record's chain and heads, for anybody to keep: digests and signatures, nothing of what they are of. */
export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () =>
    Response.json(await chainFile(), {
      headers: { "Content-Disposition": 'attachment; filename="chain.json"', "Cache-Control": "no-cache" },
    }),
  );
}
