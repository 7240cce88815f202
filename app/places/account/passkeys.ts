import { PasskeyDto } from "#contracts/passkey";
import { addPasskey, proposePasskey } from "../../../server/accounts/passkeys.ts";
import { answer, personIn, readBody } from "../../access.server.ts";
import type { Route } from "./+types/passkeys.ts";

/** Asks for a passkey to be made (`{}`), and keeps the one that was (`{ token, response }`). */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { id } = personIn(context);
    const { token, response } = await readBody(request, PasskeyDto);
    if (token === undefined || response === undefined) return Response.json(await proposePasskey(id));
    await addPasskey(id, token, response as never, request.headers.get("User-Agent") ?? "");
    return Response.json({});
  });
}
