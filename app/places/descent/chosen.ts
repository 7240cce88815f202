import { chooseRungSet } from "../../../server/desk/rungSets.ts";
import { answer, personIn } from "../../access.server.ts";
import type { Route } from "./+types/chosen.ts";

/** Uses another set of rungs from now on. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const id = (await request.formData()).get("set");
    await chooseRungSet(typeof id === "string" ? id : "", personIn(context).id);
    return null;
  });
}
