import { readColumns } from "#core/columns/readRules";
import { readAsOf, readHours } from "#contracts/hours";
import type { Shown } from "#core/marks/shown";
import { rungText } from "#core/marks/wording";
import { findMarket } from "../../../../server/bars/markets.ts";
import { readTimeframe } from "../../../../server/bars/timeframes.ts";
import { layoutOf } from "../../../../server/desk/layout.ts";
import { rungSetsOf } from "../../../../server/desk/rungSets.ts";
import { studiesOf } from "../../../../server/desk/studies.ts";
import { composeSeen, levelsAsCsv, seenAsJson, type Seen } from "../../../../server/desk/view.ts";
import { Failure } from "../../../../server/failure.ts";
import { drawPicture, pictureSvg } from "../../../../server/pictures/pictures.ts";
import { answerInTurn, personIn } from "../../../access.server.ts";
import type { Route } from "./+types/picture.ts";

const TYPES = {
  svg: "image/svg+xml",
  png: "image/png",
  csv: "text/csv; charset=utf-8",
  json: "application/json",
} as const;
type Format = keyof typeof TYPES;

const SIZE = { width: 1100, height: 640 };

/** What a chart shows as a file: the same shapes drawn by the server, its levels as a table, or all of it as data. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return answerInTurn({ request, context }, async () => {
    const query = new URL(request.url).searchParams;
    const format = query.get("format") as Format;
    if (!Object.hasOwn(TYPES, format))
      throw new Failure("format", "A view is sent as svg, png, csv or json.", { status: 400 });
    const market = await findMarket(params.market);
    const { id } = personIn(context);
    const { shown } = await layoutOf(id);
    const { chosen } = await studiesOf(id, (await rungSetsOf(id)).chosen.id);
    const seen = { ...readSeen(query, shown), studies: chosen };
    const composed = await composeSeen(market, seen);
    const body = await fileOf(format, composed, seen);
    return new Response(body, {
      headers: {
        "Content-Type": TYPES[format],
        "Content-Disposition": `attachment; filename="${market.id}-${seen.rung}.${format}"`,
        "Cache-Control": "no-store",
      },
    });
  });
}

async function fileOf(
  format: Format,
  composed: Awaited<ReturnType<typeof composeSeen>>,
  seen: Seen,
): Promise<string | Uint8Array<ArrayBuffer>> {
  if (format === "csv") return levelsAsCsv(composed);
  if (format === "json") return seenAsJson(composed, seen);
  const title = `${composed.market.name}, ${rungText(seen.rung)}`;
  if (format === "svg") return pictureSvg(composed.picture, composed.view, SIZE, title);
  return new Uint8Array((await drawPicture(composed.picture, composed.view, SIZE, title)).png);
}

/** How columns are made, where they stand in place of bars. */
function readColumnsOf(query: URLSearchParams): Seen["columns"] {
  const raw = query.get("columns");
  if (raw === null) return undefined;
  const start = Number(query.get("start") ?? 0);
  const rules = readColumns(readJson(raw));
  if (!rules || !Number.isInteger(start) || start < 0)
    throw new Failure("view", "How columns are made cannot be read.", { status: 400 });
  return { rules, start };
}

function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

function readSeen(query: URLSearchParams, shown: Shown): Omit<Seen, "studies"> {
  const number = (name: string) => {
    const value = Number(query.get(name) ?? NaN);
    if (!Number.isFinite(value)) throw new Failure("view", `The view's "${name}" is not a number.`, { status: 400 });
    return value;
  };
  const rung = query.get("rung") ?? "P1D";
  readTimeframe(rung);
  const view = {
    from: number("from"),
    to: number("to"),
    bottom: number("bottom"),
    top: number("top"),
    log: query.get("log") === "yes",
  };
  return {
    rung,
    hours: readHours(query.get("hours")),
    asOf: readAsOf(query.get("asOf")),
    view,
    scenario: query.get("scenario") ?? "",
    columns: readColumnsOf(query),
    shown,
  };
}
