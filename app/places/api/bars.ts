import type { ReadableStream } from "node:stream/web";
import { importSent, sentOptions } from "../../../server/intake/sent.ts";
import { Failure } from "../../../server/failure.ts";
import { answerProgram } from "./api.server.ts";
import type { Route } from "./+types/bars.ts";

/** Takes bars of a market that a program sends: a table of values (CSV), with the page's checks and its report. */
export function action({ params, request }: Route.ActionArgs) {
  return answerProgram(request, "bars", async (account) => {
    if (account.role === "subscriber")
      throw new Failure("role", "Bars are sent by those who work at the desk.", { status: 403 });
    const asked = new URL(request.url).searchParams;
    const body = request.body as ReadableStream<Uint8Array> | null;
    const name = asked.get("name") ?? `${params.market}.csv`;
    return Response.json(await importSent(params.market, body, name, sentOptions(asked), account.id));
  });
}
