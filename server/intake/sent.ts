import type { ReadableStream } from "node:stream/web";
import type { ConfirmImportDto } from "#contracts/market";
import { fromBuffer } from "#core/series/series";
import { isIntraday, nominalLength } from "#core/time/timeframe";
import { holdingsOf } from "../bars/layers.ts";
import { findMarket } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { dropUpload, findUpload, takeUpload, type Upload } from "../bars/uploads.ts";
import { Failure } from "../failure.ts";
import { runTask } from "../pool/pool.ts";
import { importRead, readUpload, type ImportReport } from "./import.ts";
import { TOLD_TO_NOBODY } from "./jobs.ts";

/** How a file of bars that is sent by a program is to be taken; nobody is there to be asked. */
export interface SentOptions {
  /** IANA zone of its times, where they do not say one. */
  zone: string;
  /** How long its bars are (PT1M, P1D); few bars do not say it themselves. */
  timeframe?: string;
  /** Which of day and month comes first, where a file can be read both ways. */
  order?: "dmy" | "mdy";
  /** What "38,250" is where every number could be read both ways. */
  numbers?: "decimals" | "thousands";
  /** Whether prices are taken as an adjusted close has them. */
  close?: "traded" | "adjusted";
  /** Which column is which, where the header does not say: "time:1,open:3". */
  columns?: string;
  /** Rows that cannot be read stop it, or are left out and told. */
  badRows: "refuse" | "leaveOut";
  /** Bars that differ from stored ones stop it ("ask"), or one of the two stands. */
  differing: "ask" | "stored" | "file";
}

export const SENT: SentOptions = { zone: "UTC", badRows: "refuse", differing: "ask" };

/** What a program sends, once it has come in: the file that waits, and what is to be done with it. */
export interface Sent {
  upload: Upload;
  marketId: string;
  options: SentOptions;
  accountId: string;
  isJson: boolean;
}

/** Takes in what a program sends for a market that is there. */
export async function takeSent(
  marketId: string,
  body: ReadableStream<Uint8Array> | null,
  name: string,
  options: SentOptions,
  accountId: string,
  { isJson = false }: { isJson?: boolean } = {},
): Promise<Sent> {
  await findMarket(marketId);
  const upload = await findUpload(await takeUpload(body, name, accountId), accountId);
  return { upload, marketId, options, accountId, isJson };
}

/**
 * Stores bars that a program sent, by the checks of the page: whole or not at all. The same file sent once more changes
 * nothing. Pieces of one day that only add make one import. Of the file nothing is left.
 */
export async function storeSent({ upload, isJson, ...sent }: Sent, told = TOLD_TO_NOBODY): Promise<ImportReport> {
  try {
    if (isJson) await asTable(upload.path);
    const market = await findMarket(sent.marketId);
    const { zone, order, numbers, timeframe, columns, badRows, differing } = sent.options;
    const isAdjusted = sent.options.close === "adjusted";
    const reading = {
      zone,
      ...(order ? { order } : {}),
      ...(numbers ? { numbers } : {}),
      ...(columns ? { columns } : {}),
    };
    const read = await readUpload(upload.path, { ...reading, ...ofDates(timeframe), isAdjusted }, { told });
    // A point is usual for decimals; a comma is as usual for either.
    if (read.format.numbers.ambiguous && numbers === undefined && read.format.numbers.thousands !== "")
      throw new Failure("numbers", "Numbers such as 38,250 can be read in two ways.", {
        kept: "Nothing was stored.",
        remedy: "Say which it is: numbers=thousands, or numbers=decimals.",
      });
    const bars = fromBuffer(read.bars).length;
    const base = baseOf(bars, read.timeframe, sent.options, await holdingsOf(market.id));
    // So few that they do not say themselves whether the date or the moment counts.
    const whole =
      timeframe === undefined && bars < ENOUGH
        ? await readUpload(upload.path, { ...reading, ...ofDates(base), isAdjusted })
        : read;
    const { tick, decimals } = market;
    const kind = market.kind as ConfirmImportDto["kind"];
    const confirm = { badRows, differing, market: market.id, name: market.name, kind, base, tick, decimals };
    const { accountId } = sent;
    return await importRead(upload, whole, { confirm: { ...reading, ...confirm }, accountId, isPiece: true, told });
  } finally {
    // What is left of it waits for nobody.
    await dropUpload(upload);
  }
}

/** Both in one, for whoever has the time to wait. */
export const importSent = async (...sent: Parameters<typeof takeSent>): Promise<ImportReport> =>
  storeSent(await takeSent(...sent));

/** Makes a table of a list of bars, where it lies. */
async function asTable(path: string): Promise<void> {
  const fault = await runTask("jsonBars", { path });
  if (fault !== undefined)
    throw new Failure("file", fault, { kept: "Nothing was stored.", remedy: "Send a list of bars." });
}

/** Whether bars are of a day and longer, where it is known how long they are. */
const ofDates = (base: string | undefined) => (base === undefined ? {} : { ofDates: !isIntraday(readTimeframe(base)) });

/** Bars that say by their distances how long they are. */
const ENOUGH = 3;

/**
 * How long the bars of a file are: as it was said, as they show where there are enough, or as all that the market holds
 * are; never longer than they lie apart.
 */
function baseOf(
  bars: number,
  timeframe: string,
  { timeframe: said }: SentOptions,
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
  const numbers = asked.get("numbers");
  const timeframe = asked.get("timeframe");
  const columns = asked.get("columns");
  if (timeframe !== null) readTimeframe(timeframe);
  return {
    zone: asked.get("zone") ?? SENT.zone,
    ...(timeframe === null ? {} : { timeframe }),
    ...(order === null ? {} : { order: one("order", ["dmy", "mdy"] as const, "dmy") }),
    ...(numbers === null ? {} : { numbers: one("numbers", ["decimals", "thousands"] as const, "decimals") }),
    ...(columns === null ? {} : { columns }),
    ...(asked.has("close") ? { close: one("close", ["traded", "adjusted"] as const, "traded") } : {}),
    badRows: one("badRows", ["refuse", "leaveOut"], SENT.badRows),
    differing: one("differing", ["ask", "stored", "file"], SENT.differing),
  };
}
