import type { ReadableStream } from "node:stream/web";
import { may } from "#core/readers/roles";
import { importSent, sentOptions } from "../../../server/intake/sent.ts";
import { Failure } from "../../../server/failure.ts";
import { answerProgram } from "./api.server.ts";
import type { Route } from "./+types/bars.ts";

type Body = ReadableStream<Uint8Array> | null;

/** Takes bars of a market, as a table (CSV) or a list (JSON), with the page's checks and its report. */
export function action({ params, request }: Route.ActionArgs) {
  return answerProgram(request, "bars", async (account) => {
    if (!may(account, "desk"))
      throw new Failure("role", "Bars are sent by those who work at the desk.", { status: 403 });
    const asked = new URL(request.url).searchParams;
    const isJson = /^application\/json\b/i.test(request.headers.get("Content-Type") ?? "");
    const name = asked.get("name") ?? `${params.market}.csv`;
    const options = sentOptions(asked);
    return Response.json(await importSent(params.market, request.body as Body, name, options, account.id, { isJson }));
  });
}
