import { RuleHistoryDto } from "#contracts/scenario";
import { ruleHistoryOf } from "../../../../server/scenarios/history.ts";
import { told } from "../../../../server/told.ts";
import { answer, readBody } from "../../../access.server.ts";
import type { Route } from "./+types/scenarioHistory.ts";

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
          say(told(error, "a rule's history was not worked out").body);
        } finally {
          if (!gone.signal.aborted) stream.close();
        }
      },
      cancel: () => gone.abort(),
    });
    return new Response(body, { headers: { "Content-Type": "application/x-ndjson", "Cache-Control": "no-store" } });
  });
}
