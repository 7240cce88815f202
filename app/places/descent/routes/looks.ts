import { DropLookDto, KeepLookDto } from "#contracts/studies";
import { dropLook, keepLook } from "../../../../server/desk/studies.ts";
import { answer, personIn, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/looks.ts";

/** Keeps a look, or lets go of one. */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { id } = personIn(context);
    if (request.method === "DELETE") {
      await dropLook(id, (await readBody(request, DropLookDto)).name);
      return Response.json({});
    }
    const { name, studies } = await readBody(request, KeepLookDto);
    return Response.json(await keepLook(id, name, studies));
  });
}
