import { recordFile } from "../../../server/record/file.ts";
import { answerInTurn } from "../../access.server.ts";
import type { Route } from "./+types/whole.ts";

/** The whole record, to be kept and checked elsewhere: `./compass verify FILE`. */
export function loader({ request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () =>
    Response.json(await recordFile(), {
      headers: { "Content-Disposition": 'attachment; filename="record.json"', "Cache-Control": "no-store" },
    }),
  );
}
