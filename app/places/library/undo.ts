import { dependentsOf } from "../../../server/intake/dependents.ts";
import { undoImport } from "../../../server/intake/undo.ts";
import { answer, attempt, personIn } from "../../access.server.ts";
import type { Route } from "./+types/undo.ts";

/** What depends on an import, asked before it is taken back. */
export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => ({ depends: await dependentsOf(params.import) }));
}

/** Takes an import back. */
export function action({ params, context }: Route.ActionArgs) {
  return attempt(context, async () => ({ undone: await undoImport(params.import, personIn(context).id) }));
}
