import { PasskeyDto } from "#contracts/passkey";
import { beginOn } from "../../../server/accounts/accounts.ts";
import { askPasskey, provePasskey } from "../../../server/accounts/passkeys.ts";
import { countStep } from "../../../server/http/rates.ts";
import { callerContext } from "../../context.ts";
import { answer, readBody } from "../../access.server.ts";
import { deviceCookie, deviceOf, sessionCookie } from "../../cookies.server.ts";
import type { Route } from "./+types/passkey.ts";

/** Asks for a passkey (`{}`), and signs in whose it is (`{ token, response }`). */
export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const { token, response } = await readBody(request, PasskeyDto);
    if (token === undefined || response === undefined) {
      await countStep("passkey", context.get(callerContext));
      return Response.json(await askPasskey());
    }
    const account = await provePasskey(token, response as never);
    const device = await deviceOf(request);
    const from = { ...(device ? { device } : {}), browser: request.headers.get("User-Agent") ?? "" };
    const signedIn = await beginOn(account, from);
    const headers = new Headers([["Set-Cookie", await sessionCookie(signedIn.token)]]);
    if (signedIn.device) headers.append("Set-Cookie", await deviceCookie(signedIn.device));
    return Response.json({}, { headers });
  });
}
