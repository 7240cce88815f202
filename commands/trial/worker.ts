import { randomUUID } from "node:crypto";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import { importUpload } from "../../server/bars/import.ts";
import { takeUpload } from "../../server/bars/uploads.ts";
import { openDatabase } from "../../server/database/connection.ts";
import { Account } from "../../server/database/models.ts";
import { saveScenario } from "../../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../../server/publishing/drafts.ts";
import { publish } from "../../server/publishing/publish.ts";
import { readSettings } from "../../server/settings.ts";
import { ROWS, TRIAL_MARKET } from "./shape.ts";

/** Imports a file and publishes an edition, again and again, until it is killed. */
openDatabase(readSettings().COMPASS_DATABASE);

const DAY = 86_400_000;

async function importNext(accountId: string, from: number): Promise<void> {
  const rows = Array.from({ length: ROWS }, (_, i) => `${new Date((from + i) * DAY).toISOString().slice(0, 10)},10,11,9,10`);
  const body = Readable.toWeb(Readable.from([Buffer.from(`date,open,high,low,close\n${rows.join("\n")}\n`)])) as ReadableStream<Uint8Array>;
  const confirm = { name: TRIAL_MARKET, kind: "other", base: "P1D", zone: "UTC", tick: 0.01, decimals: 2, badRows: "refuse", differing: "file" } as const;
  await importUpload(await takeUpload(body, "trial.csv", accountId), { ...confirm, market: TRIAL_MARKET }, accountId);
}

async function publishNext(author: { id: string; name: string }): Promise<void> {
  const scenario = {
    id: randomUUID(),
    title: "Trial",
    premise: "",
    direction: "long" as const,
    trigger: { event: "closeAbove" as const, price: 1e6, timeframe: "P1D" },
    entry: { order: "market" as const, price: 10 },
    stop: 9,
    targets: [{ price: 12, share: 1 }],
    invalidation: 8,
    expiry: 8e14,
  };
  await saveScenario(TRIAL_MARKET, { version: 0, step: "save", scenario }, author.id);
  const draft = await createDraft(author.id);
  const sections = [{ market: TRIAL_MARKET, rung: "P1D", scenarios: [scenario.id] }];
  await saveDraft(draft.id, { version: 1, title: "Trial", body: "Words.", sections });
  await publish(draft.id, author);
}

const account = await Account.findOne({ rejectOnEmpty: true });
const author = { id: account.id, name: account.name };
for (let n = Number(process.argv[2]); ; n++) {
  await Promise.all([importNext(author.id, n * ROWS), publishNext(author)]);
  process.stdout.write(".");
}
