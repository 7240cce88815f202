import { RuleHistoryDto } from "#contracts/scenario";
import { ruleHistoryOf } from "../../../../server/scenarios/history.ts";
import { Failure } from "../../../../server/failure.ts";
import { log } from "../../../../server/log.ts";
import { answer, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/scenarioHistory.ts";

const UNEXPECTED = { failure: { code: "unexpected", sentence: "Something went wrong on our side." } };

/** A share that is done, what was found, or why there is nothing: a line of JSON each, as they come. */
export function action({ params, request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const asked = await readBody(request, RuleHistoryDto);
    const gone = new AbortController();
    request.signal.addEventListener("abort", () => gone.abort(), { once: true });
    const body = new ReadableStream<Uint8Array>({
      async start(stream) {
        const say = (line: object) => {
          if (!gone.signal.aborted) stream.enqueue(new TextEncoder().encode(`${JSON.stringify(line)}\n`));
        };
        try {
          say({ found: await ruleHistoryOf(params.market, asked, gone.signal, (share) => say({ share })) });
        } catch (error) {
          if (!(error instanceof Failure)) log.error({ error: String(error) }, "a rule's history was not worked out");
          say(error instanceof Failure ? error.body : UNEXPECTED);
        } finally {
          if (!gone.signal.aborted) stream.close();
        }
      },
      cancel: () => gone.abort(),
    });
    return new Response(body, { headers: { "Content-Type": "application/x-ndjson", "Cache-Control": "no-store" } });
  });
}
