import { endianness } from "node:os";
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
  const count = rows.length;
  const columns = new Float64Array(count * WIDTH);
  rows.forEach(({ who, bar }, row) => {
    columns[row] = who;
    columns[count + row] = bases.indexOf(formatTimeframe(bar.base));
    FIELDS.forEach((field, i) => (columns[(2 + i) * count + row] = bar[field]));
  });
  return deflateRawSync(Buffer.concat([Buffer.of(list.length), list, littleEndian(Buffer.from(columns.buffer))]), {
    level: 6,
  });
}

/** The rows again. Throws a `RangeError` where the bytes are none. */
export function unpackRows(bytes: Uint8Array): ToldRow[] {
  let all: Buffer;
  try {
    all = inflateRawSync(bytes, { maxOutputLength: MOST_ROWS * WIDTH * 8 + 256 });
  } catch {
    throw new RangeError("These bytes are no told bars.");
  }
  const begins = 1 + (all[0] ?? 0);
  const bases = all
    .subarray(1, begins)
    .toString("ascii")
    .split(",")
    .map((text) => parseTimeframe(text));
  const size = all.length - begins;
  const count = size / (WIDTH * 8);
  if (!Number.isInteger(count)) throw new RangeError("These bytes are no told bars.");
  // Doubles lie where they like in a packet: a copy of their own begins at a multiple of eight.
  const own = new Uint8Array(size);
  own.set(all.subarray(begins));
  const columns = new Float64Array(littleEndian(Buffer.from(own.buffer)).buffer);
  const [who, base, time, from, to, open, high, low, close, volume] = Array.from({ length: WIDTH }, (_, i) =>
    columns.subarray(i * count, (i + 1) * count),
  );
  const rows: ToldRow[] = [];
  for (let i = 0; i < count; i++) {
    const timeframe = bases[base[i]];
    if (!timeframe) throw new RangeError("These bytes are no told bars.");
    // A literal as it is: one of hundreds of thousands.
    const bar: ClosedBar = {
      time: asLabel(time[i]),
      from: asInstant(from[i]),
      to: asInstant(to[i]),
      open: open[i],
      high: high[i],
      low: low[i],
      close: close[i],
      volume: volume[i],
      base: timeframe,
    };
    rows.push({ who: who[i], bar });
  }
  return rows;
}

/** Doubles as they are stored: turned round in place where the machine has them the other way. */
function littleEndian(bytes: Buffer): Buffer {
  return endianness() === "LE" ? bytes : bytes.swap64();
}

export const digestOfRows = (bytes: Uint8Array) => sha256Bytes(bytes);
