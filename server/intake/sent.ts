import type { ReadableStream } from "node:stream/web";
import type { ConfirmImportDto } from "#contracts/market";
import { nominalLength } from "#core/time/timeframe";
import { holdingsOf } from "../bars/layers.ts";
import { findMarket } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { dropUpload, findUpload, takeUpload } from "../bars/uploads.ts";
import { Failure } from "../failure.ts";
import { runTask } from "../pool/pool.ts";
import { importUpload, inspectUpload, type ImportReport, type Inspection } from "./import.ts";

/** How a file of bars that is sent by a program is to be taken; nobody is there to be asked. */
export interface SentOptions {
  /** IANA zone of its times, where they do not say one. */
  zone: string;
  /** How long its bars are (PT1M, P1D); few bars do not say it themselves. */
  timeframe?: string;
  /** Which of day and month comes first, where a file can be read both ways. */
  order?: "dmy" | "mdy";
  /** Rows that cannot be read stop it, or are left out and told. */
  badRows: "refuse" | "leaveOut";
  /** Bars that differ from stored ones stop it ("ask"), or one of the two stands. */
  differing: "ask" | "stored" | "file";
}

export const SENT: SentOptions = { zone: "UTC", badRows: "refuse", differing: "ask" };

/**
 * Stores bars that a program sends for a market that is there, by the checks of the page: whole or not at all. The same
 * file sent once more changes nothing. Pieces of one day that only add make one import.
 */
export async function importSent(
  marketId: string,
  body: ReadableStream<Uint8Array> | null,
  name: string,
  options: SentOptions,
  accountId: string,
  { isJson = false }: { isJson?: boolean } = {},
): Promise<ImportReport> {
  const market = await findMarket(marketId);
  const id = await takeUpload(body, name, accountId);
  try {
    if (isJson) await asTable((await findUpload(id, accountId)).path);
    const { zone, order, badRows, differing } = options;
    const reading = { zone, ...(order ? { order } : {}) };
    const base = baseOf(await inspectUpload(id, reading, accountId), options.timeframe, await holdingsOf(market.id));
    const { tick, decimals } = market;
    const kind = market.kind as ConfirmImportDto["kind"];
    return await importUpload(
      id,
      { ...reading, badRows, differing, market: market.id, name: market.name, kind, base, tick, decimals },
      accountId,
      true,
    );
  } finally {
    // What is left of it waits for nobody.
    await findUpload(id, accountId).then(dropUpload, () => {});
  }
}

/** Makes a table of a list of bars, where it lies. */
async function asTable(path: string): Promise<void> {
  const fault = await runTask("jsonBars", { path });
  if (fault !== undefined)
    throw new Failure("file", fault, { kept: "Nothing was stored.", remedy: "Send a list of bars." });
}

/** Bars that say by their distances how long they are. */
const ENOUGH = 3;

/**
 * How long the bars of a file are: as it was said, as they show where there are enough, or as all that the market holds
 * are; never longer than they lie apart.
 */
function baseOf(
  { bars, timeframe }: Pick<Inspection, "bars" | "timeframe">,
  said: string | undefined,
  held: readonly { base: string }[],
): string {
  const fault = (sentence: string, remedy: string) =>
    new Failure("timeframe", sentence, { kept: "Nothing was stored.", remedy });
  if (said === undefined && bars >= ENOUGH) return timeframe;
  const base = said ?? (held.length === 1 ? held[0].base : undefined);
  if (base === undefined)
    throw fault(
      `${bars === 1 ? "One bar does" : `${bars} bars do`} not say how long a bar is.`,
      "Say it with what is sent: timeframe=PT1M, say.",
    );
  if (bars > 1 && nominalLength(readTimeframe(timeframe)) < nominalLength(readTimeframe(base)))
    throw fault(`The bars lie closer than ${base}: most are ${timeframe} apart.`, "Say what they are.");
  return base;
}

/** Options of an address; a Failure that names what is none. */
export function sentOptions(asked: URLSearchParams): SentOptions {
  const one = <T extends string>(name: string, of: readonly T[], usual: T): T => {
    const text = asked.get(name) ?? usual;
    const found = of.find((value) => value === text);
    if (found === undefined)
      throw new Failure("fields", `"${name}" is one of ${of.join(", ")}.`, {
        status: 400,
        kept: "Nothing was stored.",
      });
    return found;
  };
  const order = asked.get("order");
  const timeframe = asked.get("timeframe");
  if (timeframe !== null) readTimeframe(timeframe);
  return {
    zone: asked.get("zone") ?? SENT.zone,
    ...(timeframe === null ? {} : { timeframe }),
    ...(order === null ? {} : { order: one("order", ["dmy", "mdy"] as const, "dmy") }),
    badRows: one("badRows", ["refuse", "leaveOut"], SENT.badRows),
    differing: one("differing", ["ask", "stored", "file"], SENT.differing),
  };
}
