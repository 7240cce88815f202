import { LayoutDto } from "#contracts/layout";
import { saveLayout } from "../../../../server/desk/layout.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/layout.ts";

/** Keeps the charts an analyst has side by side. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    await saveLayout(await readBody(request, LayoutDto), personIn(context).id);
    return Response.json({});
  });
}
