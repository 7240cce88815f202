import { plainDraft } from "#core/edition/blocks";
import { writtenOf } from "#core/written/former";
import { randomUUID } from "node:crypto";
import { QueryTypes, type Sequelize } from "sequelize";
import { beforeAll, beforeEach } from "vitest";
import { transact } from "./database/connection.ts";
import { Edition, OutcomeNoteRow, RecordEntry, RecordHead } from "./database/models.ts";
import { saveScenario } from "./desk/scenarios.ts";
import { advance } from "./intake/feed.ts";
import { createDraft, saveDraft } from "./publishing/drafts.ts";
import { publish } from "./publishing/publish.ts";
import { aMarketWithTape, anAnalyst, MINUTE, START, withTables } from "./testing.ts";
import { appendToRecord } from "./record/append.ts";
import { digestOf } from "./record/digest.ts";
import { checkRecord, forgetCheck } from "./record/check.ts";
import { entrySha } from "./record/entry.ts";
import { notePart } from "./record/parts.ts";
import { readEntries } from "./record/file.ts";
import { keepTail, keptTails } from "./record/told/tails.ts";
import { forgetReplays } from "./watch/callReplays.ts";

export { MINUTE, START };

/** Tables with a record of three editions; their scenarios' ids in the order of the editions. */
export function withRecord(): readonly string[] {
  const ids: string[] = [];
  withTables();
  beforeAll(() => fill(ids), 60_000);
  beforeEach(() => forgetCheck());
  return ids;
}

/** Three editions with a scenario each, the feed gone on until the first of them has ended, and a note at it. */
async function fill(ids: string[]): Promise<void> {
  const up = [102, 102, 102, 102, 102, 102, 103, 104, 105, 106, ...Array.from({ length: 60 }, () => 107)];
  const [market, author] = [await aMarketWithTape(up), await anAnalyst()];
  for (let n = 0; n < 3; n++) {
    const id = randomUUID();
    ids.push(id);
    const scenario = {
      id,
      title: `Scenario ${n + 1}`,
      premise: "",
      direction: "long" as const,
      trigger: { event: "closeAbove" as const, price: n === 0 ? 101 : 1e6, timeframe: "PT5M" },
      entry: { order: "market" as const, price: 102 },
      stop: 100,
      targets: [
        { price: 104, share: 0.5 },
        { price: 106, share: 0.5 },
      ],
      invalidation: 99,
      expiry: START + 10_000 * MINUTE,
    };
    await saveScenario(market.id, { version: 0, step: "save", scenario: writtenOf(scenario) }, author.id);
    const draft = await createDraft(author.id);
    await saveDraft(draft.id, {
      version: 1,
      ...plainDraft(`Outlook ${n + 1}`, "Words.", [{ market: market.id, rung: "PT15M", scenarios: [id] }]),
    });
    await publish(draft.id, author);
  }
  await advance(12);
  const note = {
    note: "restated" as const,
    cause: "import" as const,
    time: START,
    from: START,
    to: START + MINUTE,
    same: true,
  };
  await transact(async (transaction) => {
    const of = { edition: 1, scenarioId: ids[0], sequence: 1, createdAt: START };
    await OutcomeNoteRow.create({ ...of, note }, { transaction });
    await appendToRecord([notePart({ ...of, note })], transaction);
  });
}
const database = () => Edition.sequelize as Sequelize;
export const run = (statement: string, ...values: unknown[]) =>
  database().query(statement, { replacements: values, type: QueryTypes.RAW });

/** Everything the tampering may touch, to be put back. */
const TABLES = [
  "editions",
  "artefacts",
  "edition_pictures",
  "watchers",
  "follow_ups",
  "outcome_notes",
  "record_entries",
  "record_head",
  "told_pages",
  "told_bars",
  "bar_chunks",
  "restatements",
  "plans",
  "markets",
  "market_clock",
  "edition_markets",
  "edition_words",
  "alerts",
  "firings",
];

/**
 * Does something with the database that nobody may, looks what the verification says, and puts everything back; `then`
 * looks at what else comes of it. `tables` are those that may be touched.
 */
export async function faultsAfter(
  tamper: () => Promise<unknown>,
  { tables = TABLES, then }: { tables?: readonly string[]; then?: (faults: string) => Promise<unknown> } = {},
): Promise<string> {
  await run("SET foreign_key_checks = 0");
  for (const table of tables) await run(`CREATE TABLE kept_${table} AS SELECT * FROM ${table}`);
  // How far pages reached is kept beside the database; so are the heads, which stay.
  const tails = keptTails();
  try {
    await tamper();
    forgetCheck();
    const faults = (await checkRecord()).faults.join("\n");
    await then?.(faults);
    return faults;
  } finally {
    for (const table of tables) {
      await transact(async () => {
        await run("SET foreign_key_checks = 0");
        await run(`DELETE FROM ${table}`);
        await run(`INSERT INTO ${table} SELECT * FROM kept_${table}`);
        await run("SET foreign_key_checks = 1");
      });
      await run(`DROP TABLE kept_${table}`);
    }
    for (const tail of tails) keepTail(tail);
    forgetReplays();
    forgetCheck();
  }
}

/** Seals an entry's row anew as somebody would who has the database and not the key. */
export async function reseal(from: number): Promise<void> {
  let previous = from === 1 ? "0".repeat(64) : ((await RecordEntry.findByPk(from - 1))?.sha256 ?? "");
  for (const entry of await readEntries(from - 1)) {
    const digest =
      entry.kind === "edition" ? ((await Edition.findByPk(entry.edition))?.sha256 ?? entry.digest) : entry.digest;
    const sealed = entrySha({ ...entry, digest, previous });
    await RecordEntry.update({ digest, previousSha256: previous, sha256: sealed }, { where: { number: entry.number } });
    previous = sealed;
  }
  await RecordHead.update({ sha256: previous }, { where: { id: 1 } });
}

export async function rewrite(number: number, change: (text: string) => string): Promise<void> {
  const row = await Edition.findByPk(number, { rejectOnEmpty: true });
  const canonical = change(row.canonical);
  await row.update({ canonical, sha256: digestOf(canonical) });
}
