import { undoImport } from "../../../server/intake/undo.ts";
import { attempt, personIn } from "../../access.server.ts";
import type { Route } from "./+types/undo.ts";

/** Takes an import back. */
export function action({ params, context }: Route.ActionArgs) {
  return attempt(context, async () => ({ undone: await undoImport(params.import, personIn(context).id) }));
}
