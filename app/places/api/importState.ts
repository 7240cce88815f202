import { findImport } from "../../../server/intake/jobs.ts";
import { answerProgram } from "./api.server.ts";
import { answerImport } from "./importAnswer.ts";
import type { Route } from "./+types/importState.ts";

/** How far an import is that a program sent, and what became of it: for a day. */
export function loader({ params, request }: Route.LoaderArgs) {
  return answerProgram(request, "bars", async ({ id }) => answerImport(await findImport(params.import, id)));
}
