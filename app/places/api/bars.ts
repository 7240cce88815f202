import type { ReadableStream } from "node:stream/web";
import { may } from "#core/readers/roles";
import { csvOfJson } from "../../../server/intake/jsonBars.ts";
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
    const body = (isJson ? new Blob([csvOfJson(await request.text())]).stream() : request.body) as Body;
    const name = asked.get("name") ?? `${params.market}.csv`;
    return Response.json(await importSent(params.market, body, name, sentOptions(asked), account.id));
  });
}
