import type { ReadableStream } from "node:stream/web";
import { may } from "#core/readers/roles";
import { beginImport, waitForImport } from "../../../server/intake/jobs.ts";
import { sentOptions, storeSent, takeSent } from "../../../server/intake/sent.ts";
import { Failure } from "../../../server/failure.ts";
import { answerProgram } from "./api.server.ts";
import { answerImport } from "./importAnswer.ts";
import type { Route } from "./+types/bars.ts";

type Body = ReadableStream<Uint8Array> | null;

/** How long a program waits for its report (ms) where it did not say: what takes longer goes on by itself. */
const WAIT = 15_000;

/** The same as it was said (RFC 7240). */
function waitOf(prefer: string): number {
  const [, seconds] = /(?:^|[,;\s])wait=(\d{1,4})(?:$|[,;\s])/.exec(prefer) ?? [];
  if (seconds !== undefined) return Math.min(Number(seconds) * 1000, WAIT);
  return /(?:^|[,;\s])respond-async(?:$|[,;\s])/.test(prefer) ? 0 : WAIT;
}

/**
 * Takes bars of a market, as a table (CSV) or a list (JSON), with the page's checks and its report; 202 and an address
 * to ask where storing them takes longer than a program waits.
 */
export function action({ params, request }: Route.ActionArgs) {
  return answerProgram(request, "bars", async (account) => {
    if (!may(account, "desk"))
      throw new Failure("role", "Bars are sent by those who work at the desk.", { status: 403 });
    const asked = new URL(request.url).searchParams;
    const isJson = /^application\/json\b/i.test(request.headers.get("Content-Type") ?? "");
    const name = asked.get("name") ?? `${params.market}.csv`;
    const options = sentOptions(asked);
    const sent = await takeSent(params.market, request.body as Body, name, options, account.id, { isJson });
    await beginImport(sent.upload, account.id, (told) => storeSent(sent, told));
    return answerImport(
      await waitForImport(sent.upload.id, account.id, waitOf(request.headers.get("Prefer") ?? "")),
      true,
    );
  });
}
