import { chooseRungSet } from "../../../../server/desk/rungSets.ts";
import { answer, personIn, readForm, textField } from "../../../access.server.ts";
import type { Route } from "./+types/chosen.ts";

/** Uses another set of rungs from now on. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    await chooseRungSet(textField(await readForm(request), "set"), personIn(context).id);
    return null;
  });
}
