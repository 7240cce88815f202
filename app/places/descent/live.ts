import { readHours } from "#contracts/hours";
import { liveMessages } from "../../../server/feed/live.ts";
import { readTimeframe } from "../../../server/bars/timeframes.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/live.ts";

/** Server-sent events: the market's clock and, for an open chart, its new bars. */
export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const query = new URL(request.url).searchParams;
    const rung = query.get("rung") ?? "P1D";
    readTimeframe(rung);
    const messages = liveMessages(query.get("market") ?? "", rung, request.signal, readHours(query.get("hours")));
    const encoder = new TextEncoder();
    const stream = new ReadableStream<Uint8Array>({
      async pull(controller) {
        const { value, done } = await messages.next();
        if (done) controller.close();
        else controller.enqueue(encoder.encode(`data: ${JSON.stringify(value)}\n\n`));
      },
      async cancel() {
        await messages.return(undefined);
      },
    });
    return new Response(stream, {
      headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform" },
    });
  });
}
