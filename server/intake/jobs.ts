import { Op } from "sequelize";
import { isDuplicate } from "../database/connection.ts";
import { ImportJobRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { log } from "../log.ts";
import { told } from "../told.ts";
import type { Upload } from "../bars/uploads.ts";
import type { ImportReport } from "./import.ts";

/** What an import is at: reading the file, storing its bars, telling those who watch the market. */
export type ImportStep = "reading" | "storing" | "telling";

/** What an import tells while it is on. */
export interface Told {
  /** How far it is. */
  at(step: ImportStep, share: number): void;
  /** What it did, within the transaction that stores it: one does not stand without the other. */
  did(report: ImportReport): Promise<void>;
}

/** Of an import that nobody asks about. */
export const TOLD_TO_NOBODY: Told = { at: () => {}, did: () => Promise.resolve() };

/** An import on its way, or over. */
export type ImportJob = { id: string; fileName: string } & (
  | { state: "working"; step: ImportStep; share: number }
  | { state: "stored"; report: ImportReport }
  | { state: "refused"; failure: Failure }
);

/** How often an import says that it is at work, and after what silence its process is held to have ended (ms). */
const SAID_EVERY = 500;
const SILENT = 30_000;
/** How long it is known what became of one (ms). */
const KNOWN = 24 * 3_600_000;

/**
 * Begins the import of a file that came in and returns at once; the file's id is the job's. One that is on its way is
 * not begun twice.
 */
export async function beginImport(
  { id, name }: Pick<Upload, "id" | "name">,
  accountId: string,
  work: (its: Told) => Promise<ImportReport>,
): Promise<void> {
  const now = Date.now();
  await ImportJobRow.destroy({ where: { createdAt: { [Op.lt]: now - KNOWN } } });
  // What was refused, or ended in the middle, is begun again.
  await ImportJobRow.destroy({
    where: { id, [Op.or]: [{ state: "refused" }, { state: "working", aliveAt: { [Op.lt]: now - SILENT } }] },
  });
  const first = { state: "working", step: "reading", share: 0 } as const;
  try {
    await ImportJobRow.create({ id, accountId, fileName: name, ...first, createdAt: now, aliveAt: now });
  } catch (error) {
    if (isDuplicate(error)) return;
    throw error;
  }
  void carryOut(id, work);
}

async function carryOut(id: string, work: (its: Told) => Promise<ImportReport>): Promise<void> {
  const where = { id, state: "working" };
  let at: { step: ImportStep; share: number } = { step: "reading", share: 0 };
  const say = () =>
    ImportJobRow.update({ ...at, aliveAt: Date.now() }, { where }).catch((error: unknown) =>
      log.warn({ id, error: String(error) }, "an import could not say how far it is"),
    );
  const saying = setInterval(() => void say(), SAID_EVERY);
  try {
    await work({
      at: (step, share) => (at = { step, share }),
      did: async (report) => void (await ImportJobRow.update({ state: "stored", report }, { where })),
    });
  } catch (error) {
    const { code, sentence, details } = told(error, "an import failed");
    await ImportJobRow.update(
      { state: "refused", failure: { code, sentence, details: { kept: "Nothing was stored.", ...details } } },
      { where },
    ).catch((fault: unknown) =>
      log.error({ id, error: String(fault) }, "it could not be stored that an import failed"),
    );
  } finally {
    clearInterval(saying);
  }
}

/** Somebody's import as it stands. A `Failure` where there is none of this id. */
export async function findImport(id: string, accountId: string): Promise<ImportJob> {
  const row = await ImportJobRow.findOne({ where: { id, accountId } });
  if (!row) throw notFound("import");
  const { fileName, state, step, share, report, failure, aliveAt } = row;
  if (state === "stored") return { id, fileName, state, report: report as ImportReport };
  if (state === "refused" && failure)
    return { id, fileName, state, failure: new Failure(failure.code, failure.sentence, failure.details) };
  if (aliveAt < Date.now() - SILENT)
    return {
      ...{ id, fileName, state: "refused" },
      failure: new Failure("ended", "The desk was stopped in the middle of this import.", {
        status: 503,
        kept: "Nothing of it was stored.",
        remedy: "Send the file once more.",
      }),
    };
  return { id, fileName, state: "working", step, share };
}

/** The same once it is over, or after so long (ms). */
export async function waitForImport(id: string, accountId: string, most: number): Promise<ImportJob> {
  const until = Date.now() + most;
  // What is small is over at once; what is not is asked less and less often.
  for (let pause = 10; ; pause = Math.min(2 * pause, 400)) {
    const job = await findImport(id, accountId);
    if (job.state !== "working" || Date.now() >= until) return job;
    await new Promise((done) => setTimeout(done, Math.min(pause, Math.max(0, until - Date.now()))));
  }
}
