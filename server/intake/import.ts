import { randomUUID } from "node:crypto";
import type { ConfirmImportDto } from "#contracts/market";
import type { Transaction } from "sequelize";
import { gapsOf, jumpsOf, type Remarks } from "#core/csv/remarks";
import { sessionsOf } from "#core/csv/sessions";
import { merge, type Merge } from "#core/series/merge";
import { firstAtOrAfter, fromBuffer, slice, type Series } from "#core/series/series";
import { ALL_HOURS, checkCalendar, type SessionRule } from "#core/time/calendar";
import { isIntraday } from "#core/time/timeframe";
import { isZone } from "#core/time/zone";
import { audit } from "../audit/audit.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { BarImport, Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { runTask } from "../pool/pool.ts";
import type { FileOptions, OpenFile, ReadFile } from "../tasks/readBars.ts";
import { readClock } from "../clock.ts";
import { barsAppended, barsRestated } from "../watch/changes.ts";
import { readAbout, type AboutMarket } from "../bars/about.ts";
import { stretchOf, toldUntil } from "../bars/changes.ts";
import { appendBars, encode, readBars, replaceFrom } from "../bars/chunks.ts";
import { calendarOf, lockMarket } from "../bars/markets.ts";
import { slugOf } from "../bars/slug.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { dropUpload, findUpload, keepPart, uploadFolder, type Upload } from "../bars/uploads.ts";
import { TOLD_TO_NOBODY, type Told } from "./jobs.ts";
import { stoodStill, withHolidays } from "./stoodStill.ts";
import { addToDay } from "./together.ts";

/** What was recognised in a file, for the analyst to confirm. Bars stay on the server. */
export type Inspection = Omit<ReadFile, "bars" | "about"> & {
  name: string;
  bars: number;
  first: number;
  last: number;
  jumps: Remarks;
  /** The sessions its bars show; none where they show all hours, or too little. */
  sessions?: SessionRule[];
  about?: AboutMarket;
};

export interface ImportReport {
  market: string;
  rows: number;
  added: number;
  same: number;
  differing: number;
  kept: "stored" | "file" | "";
  repeated: number;
  leftOut: { line: number; reason: string }[];
  leftOutCount: number;
  /** Bars that the market's sessions had room for and the file has not. */
  gaps: Remarks;
  /** Dates on which nobody of its zone and kind traded: holidays to be confirmed, and no gaps. */
  holidays?: readonly string[];
  /** The very file was imported before: nothing was changed. */
  already: boolean;
}

/** Reads a file that waits; a Failure where something has to be said of it first. */
export async function readUpload(path: string, options: FileOptions, how: Reading = {}): Promise<ReadFile> {
  const read = await readOrAsk(path, options, how);
  if (!("open" in read)) return read;
  throw new Failure(read.open, read.sentence, {
    kept: "Nothing was stored.",
    remedy:
      read.open === "columns"
        ? "Say which column is which on the page of the Library or, sent by a program, " +
          "with columns=time:1,open:2,high:3,low:4,close:5, say."
        : "Choose it on the page of the Library, which takes it apart, or send each market by itself.",
  });
}

interface Reading {
  signal?: AbortSignal | undefined;
  told?: Told;
}

/** The same, or what has to be said of it; reading it ends when nobody waits for the answer any more. */
async function readOrAsk(
  path: string,
  options: FileOptions,
  { signal, told = TOLD_TO_NOBODY }: Reading,
): Promise<ReadFile | OpenFile> {
  if (!isZone(options.zone))
    throw new Failure("zone", `"${options.zone.slice(0, 40)}" is not a time zone of the IANA database.`, {
      fields: { zone: "Choose a zone such as Europe/Lisbon or UTC." },
    });
  const read = await runTask("readBars", { path, options }, signal, (share) => told.at("reading", share));
  if (typeof read === "string")
    throw new Failure("file", read, { kept: "Nothing was stored.", remedy: "Mend the file and choose it again." });
  return read;
}

/** A file of which something has to be said before it can be inspected. */
export type OpenInspection = OpenFile & { name: string };

/** What is recognised in a file that waits; reading it ends when nobody waits for the answer any more. */
export async function inspectUpload(
  id: string,
  options: FileOptions,
  accountId: string,
  signal?: AbortSignal,
): Promise<Inspection | OpenInspection> {
  const upload = await findUpload(id, accountId);
  const found = await readOrAsk(upload.path, options, { signal });
  if ("open" in found) return { ...found, name: upload.name };
  const { bars, about, ...read } = found;
  const series = fromBuffer(bars);
  const known = readAbout(about);
  const sessions = sessionsOf(series, readTimeframe(read.timeframe), options.zone);
  return {
    ...read,
    name: upload.name,
    bars: series.length,
    first: series.time[0],
    last: series.time[series.length - 1],
    jumps: jumpsOf(series),
    ...(sessions ? { sessions } : {}),
    ...(known ? { about: known } : {}),
  };
}

/**
 * Stores a confirmed file, wholly or not at all. Bad rows stop it unless the analyst agreed to leave exactly those
 * out; bars that differ from stored ones stop it until the analyst has said which stand.
 */
export async function importUpload(
  id: string,
  confirm: ConfirmImportDto,
  accountId: string,
  told: Told = TOLD_TO_NOBODY,
): Promise<ImportReport> {
  const upload = await findUpload(id, accountId);
  const read = await readUpload(upload.path, optionsOf(confirm), { told });
  return importRead(upload, read, { confirm, accountId, isPiece: false, told });
}

/** Takes a file of several markets apart: one that waits for each, under the market's name. The whole one goes. */
export async function splitUpload(id: string, columns: string | undefined, accountId: string): Promise<string[]> {
  const upload = await findUpload(id, accountId);
  const ask = { path: upload.path, folder: uploadFolder(), ...(columns === undefined ? {} : { columns }) };
  const parts = await runTask("splitBars", ask);
  if (typeof parts === "string") throw new Failure("file", parts, { kept: "Nothing was stored." });
  for (const { id: part, name } of parts) await keepPart(part, name, upload);
  await dropUpload(upload);
  return parts.map((part) => part.id);
}

const optionsOf = ({ zone, base, order, numbers, isAdjusted, columns }: ConfirmImportDto): FileOptions => ({
  zone,
  ofDates: !isIntraday(readTimeframe(base)),
  ...(order ? { order } : {}),
  ...(numbers ? { numbers } : {}),
  ...(isAdjusted ? { isAdjusted } : {}),
  ...(columns ? { columns } : {}),
});

/**
 * Stores what was read of a file. A piece of what a program sends may become part of that day's import.
 */
export async function importRead(upload: Upload, read: ReadFile, how: How): Promise<ImportReport> {
  if (read.faultCount > 0 && how.confirm.badRows === "refuse")
    throw new Failure("bad-rows", `${read.faultCount} rows cannot be read.`, {
      kept: "Nothing was stored.",
      remedy: "Mend the file, or agree to leave exactly these rows out.",
    });
  const incoming = fromBuffer(read.bars);
  if (incoming.length === 0)
    throw new Failure("no-bars", "No row of the file can be read as a bar.", { kept: "Nothing was stored." });
  const report = await transact(async (transaction) => {
    const done = await storeRead(read, incoming, upload, how, transaction);
    await how.told.did(done);
    return done;
  });
  await dropUpload(upload);
  return report;
}

/** How a file is to be stored, and who is told of it. */
interface How {
  confirm: ConfirmImportDto;
  accountId: string;
  isPiece: boolean;
  told: Told;
}

async function storeRead(
  read: ReadFile,
  incoming: Series,
  upload: Upload,
  { confirm, accountId, isPiece, told }: How,
  transaction: Transaction,
): Promise<ImportReport> {
  const market = confirm.market
    ? await lockMarket(confirm.market, transaction)
    : await Market.create(
        { id: slugOf(confirm.name), ...newMarket(confirm, readAbout(read.about), incoming) },
        { transaction },
      ).catch(nameTaken);
  if (market.formula)
    throw new Failure("derived", `${market.name} is made of other markets; it has no bars of its own.`, {
      kept: "Nothing was stored.",
      remedy: "Import into the markets it is made of.",
    });
  const where = { marketId: market.id, base: confirm.base, sha256: read.sha256, standing: 1 } as const;
  if (await BarImport.findOne({ where, transaction, attributes: ["id"] }))
    return reportOf(
      market.id,
      read,
      { added: 0, same: incoming.length, differing: 0 },
      { kept: "", gaps: NO_REMARKS, already: true },
    );
  const id = randomUUID();
  const merged = await store(market, incoming, confirm, { importId: id, accountId, told }, transaction);
  const kept = merged.differing > 0 && confirm.differing !== "ask" ? confirm.differing : "";
  const base = readTimeframe(confirm.base);
  const holidays = isPiece ? [] : await stoodStill(market, incoming, base, transaction);
  const gaps = gapsOf(incoming, base, withHolidays(calendarOf(market), holidays));
  const found = { kept, gaps, already: false, ...(holidays.length > 0 ? { holidays } : {}) } as const;
  const done = reportOf(market.id, read, merged, found);
  const span = { firstTime: incoming.time[0], lastTime: incoming.time[incoming.length - 1] };
  const shelf = { marketId: market.id, base: confirm.base, shelf: "live" as const };
  if (isPiece) {
    const piece = { sha256: read.sha256, fileName: upload.name, accountId, report: done, merged, ...span };
    if (await addToDay(shelf, piece, Date.now(), transaction)) return done;
  }
  const { addedRuns, replaced } = merged;
  const undo = { addedRuns: Buffer.from(addedRuns.buffer), replaced: encode(replaced) };
  await audit({
    what: "imported",
    subject: `${market.name}, ${confirm.base}: ${upload.name}`,
    detail: { added: done.added, differing: done.differing, stands: done.kept || "nothing differed" },
  });
  await BarImport.create(
    {
      ...{ id, ...where, ...span, ...undo, fileName: upload.name, accountId, createdAt: Date.now() },
      report: { ...done, ...(isPiece ? { pieces: 1 } : {}) },
    },
    { transaction },
  );
  return done;
}

/** Puts bars among those stored and tells what depends on them. */
async function store(
  market: Market,
  incoming: Series,
  { base, differing }: Pick<ConfirmImportDto, "base" | "differing">,
  { told: { at }, ...by }: { importId: string; accountId: string; told: Told },
  transaction: Transaction,
): Promise<Merge> {
  at("storing", 0);
  const stored = (share: number) => at("storing", share);
  const shelf = { marketId: market.id, base, shelf: "live" as const };
  // What lies before the first of them stays as it is, however long it is.
  const before = await readBars(shelf, incoming.time[0], Infinity, transaction);
  const merged = merge(before, incoming, differing === "file" ? "incoming" : "stored");
  if (merged.differing > 0 && differing === "ask")
    throw new Failure("differing", `${merged.differing} bars of the file differ from those already stored.`, {
      kept: "Nothing was changed.",
      remedy: "Say which are to stand: the stored ones or the file's.",
      fields: { differing: "Choose which stand." },
    });
  const { series, changedFrom, added, replaced } = merged;
  if (!Number.isFinite(changedFrom)) return merged;
  const told = await toldUntil(market, transaction);
  if (before.length === 0) await appendBars(shelf, series, transaction, stored);
  else
    await replaceFrom(
      shelf,
      changedFrom,
      slice(series, firstAtOrAfter(series, changedFrom), series.length),
      transaction,
      stored,
    );
  at("telling", 0);
  const cause = { cause: "import", bars: added + replaced.length, ...by } as const;
  if (changedFrom < told)
    await barsRestated(market, { base, ...stretchOf(merged), finer: replaced.length === 0 }, cause, transaction);
  await barsAppended([market], (await readClock()).now, transaction);
  return merged;
}

function reportOf(
  market: string,
  { rows, repeated, faults, faultCount }: ReadFile,
  { added, same, differing }: Pick<Merge, "added" | "same" | "differing">,
  outcome: Pick<ImportReport, "kept" | "gaps" | "already" | "holidays">,
): ImportReport {
  return {
    market,
    rows,
    added,
    same,
    differing,
    repeated,
    leftOut: faults.slice(0, 100),
    leftOutCount: faultCount,
    ...outcome,
  };
}

const NO_REMARKS: Remarks = { count: 0, listed: [] };

/**
 * A new market as it was confirmed; what the file says of it, or its bars show, adds sessions and the unit of distance.
 */
function newMarket(confirm: ConfirmImportDto, about: AboutMarket | undefined, bars: Series) {
  const { name, kind, tick, decimals, zone, base } = confirm;
  const shown = confirm.hours === "shown" ? sessionsOf(bars, readTimeframe(base), zone) : undefined;
  const calendar =
    about?.calendar.zone === zone ? about.calendar : { ...ALL_HOURS, zone, ...(shown ? { sessions: shown } : {}) };
  const [problem] = checkCalendar(calendar);
  if (problem) throw new Failure("calendar", problem);
  return { name, kind, tick, pip: about?.pip ?? tick, pipName: about?.pipName ?? "tick", decimals, calendar };
}

function nameTaken(error: unknown): never {
  if (!isDuplicate(error)) throw error;
  throw new Failure("taken", "There is already a market of this name.", {
    kept: "Nothing was stored.",
    remedy: "Choose it in the list to extend it, or give the new one another name.",
    fields: { name: "This name is taken." },
  });
}

/** The newest imports, of one market or of all; what undoes them is left in the database. */
export function listImports(marketId?: string, limit = 20): Promise<BarImport[]> {
  return BarImport.findAll({
    where: marketId === undefined ? {} : { marketId },
    attributes: { exclude: ["addedRuns", "replaced"] },
    order: [["createdAt", "DESC"]],
    limit,
  });
}
