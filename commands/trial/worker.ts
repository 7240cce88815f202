import { plainDraft } from "#core/edition/blocks";
import { aFormer } from "#core/testing/written";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { importUpload } from "../../server/intake/import.ts";
import { undoImport } from "../../server/intake/undo.ts";
import { takeUpload } from "../../server/bars/uploads.ts";
import { openDatabase } from "../../server/database/connection.ts";
import { Account, BarImport } from "../../server/database/models.ts";
import { saveScenario } from "../../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../../server/publishing/drafts.ts";
import { publish } from "../../server/publishing/publish.ts";
import { readSettings } from "../../server/settings.ts";
import { OTHER_PRICE, OVERLAY, PRICE, RESTATED_MARKET, ROWS, TRIAL_MARKET } from "./shape.ts";

/**
 * Imports a file, publishes an edition, and restates other bars or puts them back, again and again, until it is killed.
 */
openDatabase(readSettings().COMPASS_DATABASE);

const DAY = 86_400_000;

async function importDays(market: string, accountId: string, from: number, to: number, price: number): Promise<void> {
  const rows = Array.from(
    { length: to - from },
    (_, i) => `${new Date((from + i) * DAY).toISOString().slice(0, 10)},${price},${price + 1},${price - 1},${price}`,
  );
  const body = Readable.toWeb(
    Readable.from([Buffer.from(`date,open,high,low,close\n${rows.join("\n")}\n`)]),
  ) as ReadableStream<Uint8Array>;
  const confirm = {
    name: market,
    kind: "other",
    base: "P1D",
    zone: "UTC",
    tick: 0.01,
    decimals: 2,
    badRows: "refuse",
    differing: "file",
  } as const;
  await importUpload(await takeUpload(body, "trial.csv", accountId), { ...confirm, market }, accountId);
}

/** Restates days of the other market or, when a restatement stands, takes it back. */
async function restateOrUndo(accountId: string): Promise<void> {
  const standing = await BarImport.findAll({
    where: { marketId: RESTATED_MARKET, standing: 1 },
    order: [["createdAt", "DESC"]],
    attributes: ["id"],
  });
  if (standing.length === 0) await importDays(RESTATED_MARKET, accountId, 0, ROWS, PRICE);
  else if (standing.length === 1) await importDays(RESTATED_MARKET, accountId, OVERLAY.from, OVERLAY.to, OTHER_PRICE);
  else await undoImport(standing[0].id, accountId);
}

async function publishNext(author: { id: string; name: string }): Promise<void> {
  const scenario = aFormer({
    trigger: { event: "closeAbove", price: 1e6, timeframe: "P1D" },
    entry: { order: "market", price: 10 },
    stop: 9,
    targets: [{ price: 12, share: 1 }],
    invalidation: 8,
  });
  await saveScenario(TRIAL_MARKET, { version: 0, step: "save", scenario }, author.id);
  const draft = await createDraft(author.id);
  const sections = [{ market: TRIAL_MARKET, rung: "P1D", scenarios: [scenario.id] }];
  await saveDraft(draft.id, { version: 1, ...plainDraft("Trial", "Words.", sections) });
  await publish(draft.id, author);
}

const account = await Account.findOne({ rejectOnEmpty: true });
const author = { id: account.id, name: account.name };
for (let n = Number(process.argv[2]); ; n++) {
  await Promise.all([
    importDays(TRIAL_MARKET, author.id, n * ROWS, (n + 1) * ROWS, 10),
    publishNext(author),
    restateOrUndo(author.id),
  ]);
  process.stdout.write(".");
}
