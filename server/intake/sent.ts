import type { ReadableStream } from "node:stream/web";
import type { ConfirmImportDto } from "#contracts/market";
import { findMarket } from "../bars/markets.ts";
import { dropUpload, findUpload, takeUpload } from "../bars/uploads.ts";
import { Failure } from "../failure.ts";
import { importUpload, inspectUpload, type ImportReport } from "./import.ts";

/** How a file of bars that is sent by a program is to be taken; nobody is there to be asked. */
export interface SentOptions {
  /** IANA zone of its times, where they do not say one. */
  zone: string;
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
 * file sent once more changes nothing.
 */
export async function importSent(
  marketId: string,
  body: ReadableStream<Uint8Array> | null,
  name: string,
  options: SentOptions,
  accountId: string,
): Promise<ImportReport> {
  const market = await findMarket(marketId);
  const id = await takeUpload(body, name, accountId);
  try {
    const { zone, order, badRows, differing } = options;
    const reading = { zone, ...(order ? { order } : {}) };
    const { timeframe } = await inspectUpload(id, reading, accountId);
    const { tick, decimals } = market;
    const kind = market.kind as ConfirmImportDto["kind"];
    return await importUpload(
      id,
      { ...reading, badRows, differing, market: market.id, name: market.name, kind, base: timeframe, tick, decimals },
      accountId,
    );
  } finally {
    // What is left of it waits for nobody.
    await findUpload(id, accountId).then(dropUpload, () => {});
  }
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
  return {
    zone: asked.get("zone") ?? SENT.zone,
    ...(order === null ? {} : { order: one("order", ["dmy", "mdy"] as const, "dmy") }),
    badRows: one("badRows", ["refuse", "leaveOut"], SENT.badRows),
    differing: one("differing", ["ask", "stored", "file"], SENT.differing),
  };
}
