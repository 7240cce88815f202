import { Op, type Transaction } from "sequelize";
import { concat, firstAtOrAfter, fromBuffer, slice, toBuffer, type Series } from "#core/series/series";
import { BarChunk } from "../database/models.ts";

/** Bytes of a stored bar: six doubles. */
export const BAR_BYTES = 48;
/** Bars in a full chunk: 393 kB of doubles, read and written as one value. */
export const FULL = 8192;
/** A growing chunk is sealed at this size, so that one new bar rewrites at most 25 kB. */
const GROWING = 512;

/** Where bars of one market and resolution live. */
export interface Shelf {
  marketId: string;
  base: string;
  shelf: "live" | "tape";
}

export function encode(series: Series): Buffer {
  const all = toBuffer(series);
  return Buffer.from(all.buffer, all.byteOffset, all.byteLength);
}

export function decode(data: Buffer): Series {
  // A driver's buffer may start anywhere; doubles need a multiple of eight.
  const bytes = data.byteOffset % 8 === 0 ? data : Buffer.from(new Uint8Array(data).buffer);
  return fromBuffer(new Float64Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 8));
}

/** Bars of a shelf with times in [from, to). */
export async function readBars(
  shelf: Shelf,
  from = -Infinity,
  to = Infinity,
  transaction?: Transaction,
): Promise<Series> {
  const range = [
    ...(Number.isFinite(from) ? [{ startTime: { [Op.gte]: await firstChunk(shelf, from, transaction) } }] : []),
    ...(Number.isFinite(to) ? [{ startTime: { [Op.lt]: to } }] : []),
  ];
  const chunks = await BarChunk.findAll({
    where: { ...shelf, [Op.and]: range },
    order: [["startTime", "ASC"]],
    attributes: ["data"],
    transaction,
    raw: true,
  });
  const all = concat(chunks.map(({ data }) => decode(data)));
  return slice(all, firstAtOrAfter(all, from), firstAtOrAfter(all, to));
}

/**
 * Start of the chunk that `time` falls into or after, else `time`: by the key alone. Asked by their ends, the chunks
 * before would be read with all their bars to be left out.
 */
async function firstChunk(shelf: Shelf, time: number, transaction?: Transaction): Promise<number> {
  const where = { ...shelf, startTime: { [Op.lte]: time } };
  return (await BarChunk.max<number | null, BarChunk>("startTime", { where, transaction })) ?? time;
}

/** Time of the last bar of a shelf; -Infinity when it is empty. */
export async function lastTime(shelf: Shelf, transaction?: Transaction): Promise<number> {
  return (await BarChunk.max<number, BarChunk>("endTime", { where: { ...shelf }, transaction })) ?? -Infinity;
}

/** Told how much of what is to be written has been (0 to 1). */
type Progress = (share: number) => void;

/** Writes bars that all come after those on the shelf. */
export async function appendBars(
  shelf: Shelf,
  series: Series,
  transaction: Transaction,
  onProgress?: Progress,
): Promise<void> {
  if (series.length === 0) return;
  const last = await BarChunk.findOne({
    where: { ...shelf },
    order: [["startTime", "DESC"]],
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  if (last && series.time[0] <= last.endTime) throw new RangeError("Appended bars must follow those that are stored.");
  const grown = last && last.length < GROWING ? concat([decode(last.data), series]) : series;
  if (grown !== series) await last?.destroy({ transaction });
  await writeChunks(shelf, grown, transaction, onProgress);
  if (grown !== series && grown.length >= GROWING) await packTail(shelf, transaction);
}

async function writeChunks(
  shelf: Shelf,
  series: Series,
  transaction: Transaction,
  onProgress?: Progress,
): Promise<void> {
  for (let from = 0; from < series.length; from += FULL) {
    const part = slice(series, from, Math.min(from + FULL, series.length));
    await BarChunk.create(
      {
        ...shelf,
        startTime: part.time[0],
        endTime: part.time[part.length - 1],
        length: part.length,
        data: encode(part),
      },
      { transaction },
    );
    onProgress?.((from + part.length) / series.length);
  }
}

/** Puts sealed small chunks at the end together once they fill a whole one. */
async function packTail(shelf: Shelf, transaction: Transaction): Promise<void> {
  const rows = await BarChunk.findAll({
    where: { ...shelf, length: { [Op.lt]: FULL } },
    attributes: ["startTime", "length"],
    order: [["startTime", "DESC"]],
    limit: FULL / GROWING + 1,
    transaction,
  });
  if (rows.reduce((sum, { length }) => sum + length, 0) < FULL) return;
  await replaceFrom(
    shelf,
    rows[rows.length - 1].startTime,
    await readBars(shelf, rows[rows.length - 1].startTime, Infinity, transaction),
    transaction,
  );
}

/** Replaces every bar from `from` on by `series`. */
export async function replaceFrom(
  shelf: Shelf,
  from: number,
  series: Series,
  transaction: Transaction,
  onProgress?: Progress,
): Promise<void> {
  const kept = await readBars(shelf, await chunkStart(shelf, from, transaction), from, transaction);
  await BarChunk.destroy({ where: { ...shelf, endTime: { [Op.gte]: from } }, transaction });
  await writeChunks(shelf, concat([kept, series]), transaction, onProgress);
}

/** Start of the chunk that `time` falls into, so that what precedes it in that chunk is kept. */
async function chunkStart(shelf: Shelf, time: number, transaction: Transaction): Promise<number> {
  const chunk = await BarChunk.findOne({
    where: { ...shelf, startTime: { [Op.lt]: time }, endTime: { [Op.gte]: time } },
    attributes: ["startTime"],
    transaction,
    raw: true,
  });
  return chunk?.startTime ?? time;
}
