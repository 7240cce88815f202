import { barsAsCsv, barsAsJson } from "../../../server/bars/export.ts";
import { findMarket } from "../../../server/bars/markets.ts";
import { readTimeframe } from "../../../server/bars/timeframes.ts";
import { marksAsCsv, marksAsJson } from "../../../server/desk/markFile.ts";
import { answer } from "../../access.server.ts";
import type { Route } from "./+types/export.ts";

/** Bars of a rung, or the marks of a market, as a file: `what` is "bars" or "marks", `format` "csv" or "json". */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const query = new URL(request.url).searchParams;
    const market = await findMarket(params.market);
    const json = query.get("format") === "json";
    const rung = query.get("rung") ?? "P1D";
    readTimeframe(rung);
    const marks = query.get("what") === "marks";
    const body = marks
      ? textStream(once(json ? marksAsJson(market.id) : marksAsCsv(market.id)))
      : textStream((json ? barsAsJson : barsAsCsv)(market, rung));
    const name = `${market.id}-${marks ? "marks" : rung}.${json ? "json" : "csv"}`;
    return new Response(body, {
      headers: {
        "Content-Type": json ? "application/json" : "text/csv; charset=utf-8",
        "Content-Disposition": `attachment; filename="${name}"`,
        "Cache-Control": "no-store",
      },
    });
  });
}

async function* once(text: Promise<string>): AsyncGenerator<string> {
  yield await text;
}

/** Text as it is made, no faster than it is taken. */
function textStream(parts: AsyncGenerator<string>): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { value, done } = await parts.next();
      if (done) controller.close();
      else controller.enqueue(encoder.encode(value));
    },
    async cancel() {
      await parts.return(undefined);
    },
  });
}
