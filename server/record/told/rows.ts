import { deflateRawSync, inflateRawSync } from "node:zlib";
import type { ClosedBar } from "#core/observe/closedBar";
import { asInstant, asLabel } from "#core/observe/instant";
import { formatTimeframe, parseTimeframe } from "#core/time/timeframe";
import { sha256Bytes } from "../../canonical.ts";

/** A bar as it was told: the market's own (0), or of another one it is told beside (its place in the facts, from 1). */
export interface ToldRow {
  who: number;
  bar: ClosedBar;
}

const FIELDS = ["time", "from", "to", "open", "high", "low", "close", "volume"] as const;
/** Doubles of a row: who it is of, its timeframe's place in the list, and its fields. */
const WIDTH = 2 + FIELDS.length;

/** Longest list of rows that is read at once: a page is far shorter. */
export const MOST_ROWS = 16_384;

/**
 * Rows as bytes: a byte for the length of the list of timeframes, the list (ASCII, by commas), and the columns one
 * after the other as little-endian doubles, deflated (RFC 1951).
 */
export function packRows(rows: readonly ToldRow[]): Buffer {
  const bases = [...new Set(rows.map(({ bar }) => formatTimeframe(bar.base)))];
  const list = Buffer.from(bases.join(","), "ascii");
  const columns = Buffer.alloc(rows.length * WIDTH * 8);
  const at = (column: number, row: number) => (column * rows.length + row) * 8;
  rows.forEach(({ who, bar }, row) => {
    columns.writeDoubleLE(who, at(0, row));
    columns.writeDoubleLE(bases.indexOf(formatTimeframe(bar.base)), at(1, row));
    FIELDS.forEach((field, i) => columns.writeDoubleLE(bar[field], at(2 + i, row)));
  });
  return deflateRawSync(Buffer.concat([Buffer.of(list.length), list, columns]), { level: 6 });
}

/** The rows again. Throws a `RangeError` where the bytes are none. */
export function unpackRows(bytes: Uint8Array): ToldRow[] {
  let all: Buffer;
  try {
    all = inflateRawSync(bytes, { maxOutputLength: MOST_ROWS * WIDTH * 8 + 256 });
  } catch {
    throw new RangeError("These bytes are no told bars.");
  }
  const list = all.subarray(1, 1 + (all[0] ?? 0)).toString("ascii");
  const bases = list.split(",").map((text) => parseTimeframe(text));
  const columns = all.subarray(1 + (all[0] ?? 0));
  const count = columns.length / (WIDTH * 8);
  if (!Number.isInteger(count)) throw new RangeError("These bytes are no told bars.");
  const value = (column: number, row: number) => columns.readDoubleLE((column * count + row) * 8);
  return Array.from({ length: count }, (_, row): ToldRow => {
    const base = bases[value(1, row)];
    if (!base) throw new RangeError("These bytes are no told bars.");
    const [time, from, to, open, high, low, close, volume] = FIELDS.map((_field, i) => value(2 + i, row));
    const span = { time: asLabel(time), from: asInstant(from), to: asInstant(to) };
    return { who: value(0, row), bar: { ...span, open, high, low, close, volume, base } };
  });
}

export const digestOfRows = (bytes: Uint8Array) => sha256Bytes(bytes);
