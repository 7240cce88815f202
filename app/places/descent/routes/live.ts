import { readHours } from "#contracts/hours";
import { personOf } from "../../../../server/accounts/sessions.ts";
import { notFound } from "../../../../server/failure.ts";
import { liveMessages, type OpenChart } from "../../../../server/feed/live.ts";
import { openStream } from "../../../../server/feed/streams.ts";
import { log } from "../../../../server/log.ts";
import { readTimeframe } from "../../../../server/bars/timeframes.ts";
import { answer, personIn } from "../../../access.server.ts";
import { tokenOf } from "../../../cookies.server.ts";
import type { Route } from "./+types/live.ts";

const HEADERS = { "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform" };

/** Charts of one page: more are not told anything. */
const MOST_CHARTS = 12;

/** Server-sent events: the market's clock and, for the open charts, their new bars. */
export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    // A stream is one, and no data of a page; nobody who asks for its head listens to it.
    if (new URL(request.url).pathname !== "/live") throw notFound("page");
    if (request.method !== "GET") return new Response(null, { headers: HEADERS });
    const charts = new URL(request.url).searchParams.getAll("chart").slice(0, MOST_CHARTS).map(readChart);
    const { id } = personIn(context);
    const token = await tokenOf(request);
    const { signal, leave } = openStream(id, request.signal, async () => (await personOf(token, true))?.id === id);
    const messages = liveMessages(charts, signal);
    const encoder = new TextEncoder();
    const stream = new ReadableStream<Uint8Array>({
      async pull(controller) {
        const { value, done } = await messages.next().catch((error: unknown) => {
          log.warn({ error: String(error) }, "a stream ended");
          return { value: undefined, done: true };
        });
        if (done) {
          leave();
          controller.close();
        } else controller.enqueue(encoder.encode(`data: ${JSON.stringify(value)}\n\n`));
      },
      async cancel() {
        leave();
        await messages.return(undefined);
      },
    });
    return new Response(stream, { headers: HEADERS });
  });
}

/** "market rung hours", as the page writes it. */
function readChart(text: string): OpenChart {
  const [market = "", rung = "P1D", hours] = text.split(" ");
  readTimeframe(rung);
  return { market, rung, hours: readHours(hours) };
}
