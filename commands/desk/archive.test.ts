import { createHash, randomUUID } from "node:crypto";
import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { gunzipSync, gzipSync } from "node:zlib";
import { QueryTypes } from "sequelize";
import { expect, it } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import type { ScenarioDto } from "#contracts/scenario";
import { writtenOf } from "#core/written/former";
import { appendBars, readBars } from "../../server/bars/chunks.ts";
import { openDatabase, transact } from "../../server/database/connection.ts";
import { migrator } from "../../server/database/migrate.ts";
import { Account } from "../../server/database/models.ts";
import { applySteps, marksOf } from "../../server/desk/marks.ts";
import { saveScenario } from "../../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../../server/publishing/drafts.ts";
import { verifyEdition } from "../../server/publishing/editions.ts";
import { publish } from "../../server/publishing/publish.ts";
import { aMarket, anAnalyst, minutes, setClock, withTables } from "../../server/testing.ts";
import { keptHeads } from "../../server/record/heads.ts";
import { readArchive, writeArchive } from "./archive.ts";

withTables();

const FILE = `/tmp/compass-${randomUUID()}.backup`;

async function dump(): Promise<string> {
  const sequelize = openDatabase("");
  const tables = [
    "accounts",
    "markets",
    "bar_chunks",
    "marks",
    "mark_steps",
    "drafts",
    "editions",
    "edition_pictures",
    "record_entries",
    "record_head",
    "audit_log",
    "watchers",
    "market_clock",
  ];
  const rows = await Promise.all(
    tables.map((table) => sequelize.query(`SELECT * FROM ${table} ORDER BY 1, 2`, { type: QueryTypes.SELECT })),
  );
  return JSON.stringify(rows);
}

/** The same with a last line that fits: whoever bends a backup can count and hash. */
function resealed(text: string): Buffer {
  const [head, ...lines] = text.trimEnd().split("\n");
  const rows = lines.slice(0, -1);
  const sha256 = createHash("sha256")
    .update(rows.map((line) => `${line}\n`).join(""))
    .digest("hex");
  return gzipSync(`${[head, ...rows, JSON.stringify({ rows: rows.length, sha256 })].join("\n")}\n`);
}

const SCENARIO: ScenarioDto = writtenOf({
  id: randomUUID(),
  title: "Kept",
  premise: "",
  direction: "long",
  trigger: { event: "closeAbove", price: 12, timeframe: "PT1M" },
  entry: { order: "market", price: 12 },
  stop: 11,
  targets: [{ price: 14, share: 1 }],
  invalidation: 11,
  expiry: Date.UTC(2024, 1, 1),
});

async function emptyTables(): Promise<void> {
  const tables = migrator(openDatabase(""));
  await tables.down({ to: 0 });
  await tables.up();
}

it("a desk is written to a file and put back, row for row; a damaged file puts nothing back", async () => {
  const [market, author] = [await aMarket("tin"), await anAnalyst()];
  await setClock(Date.UTC(2024, 0, 3));
  const bars = minutes(
    Date.UTC(2024, 0, 2),
    Array.from({ length: 700 }, (_, i) => 10 + (i % 5)),
  );
  await transact((transaction) => appendBars({ marketId: "tin", base: "PT1M", shelf: "live" }, bars, transaction));
  const mark = {
    id: randomUUID(),
    kind: "level",
    rung: "PT1M",
    anchors: [{ time: 0, price: 1 }],
    props: { label: 'it\'s "quoted"' },
    note: "\u20ac \n",
  };
  await applySteps(market.id, [{ id: randomUUID(), step: "set", version: 0, mark }], author.id);
  await saveScenario(market.id, { version: 0, step: "save", scenario: SCENARIO }, author.id);
  const draft = await createDraft(author.id);
  await saveDraft(draft.id, {
    version: 1,
    ...plainDraft("T", "B", [{ market: "tin", rung: "PT1M", scenarios: [] }]),
  });
  const number = await publish(draft.id, author);

  const kept = keptHeads();
  expect(kept.at(-1)?.number).toBe(1);

  const before = await dump();
  const rows = await writeArchive(openDatabase(""), FILE);
  expect(rows).toBeGreaterThan(5);

  await emptyTables();
  const text = gunzipSync(readFileSync(FILE)).toString();
  const damaged: [string, Buffer][] = [
    ["cut short", gzipSync(text.slice(0, text.length / 2))],
    ["changed", gzipSync(text.replace('"tin"', '"lead"'))],
    ["no archive", Buffer.from("hello")],
    ["another format", gzipSync('{"format":"other"}\n')],
    ["of a former version", gzipSync(text.replace("0008-watchers", "0007-held-to-account"))],
    ["newer", gzipSync(text.replace("0001-ground", "9999-later"))],
    ["a title bent", resealed(text.replace('\\"title\\":\\"T\\"', '\\"title\\":\\"U\\"'))],
    [
      "a line without an end",
      gzipSync(Buffer.concat([Buffer.from(text), Buffer.alloc(300 * 1024 * 1024, 32)]), { level: 1 }),
    ],
    [
      "a bomb",
      gzipSync(
        Buffer.concat([
          Buffer.from(text.split("\n")[0]),
          ...Array.from({ length: 40 }, () => Buffer.alloc(8 * 1024 * 1024, "\n")),
        ]),
        { level: 9 },
      ),
    ],
  ];
  for (const [name, bytes] of damaged) {
    writeFileSync(FILE + name, bytes);
    await expect(readArchive(openDatabase(""), FILE + name), name).rejects.toThrow(
      /nothing was put back|no backup|newer version|damaged/,
    );
    if (name === "a title bent")
      await expect(readArchive(openDatabase(""), FILE + name)).rejects.toThrow(
        /record in the file does not hold.*Edition 1: the text/s,
      );
    expect(await Account.count(), name).toBe(0);
    rmSync(FILE + name);
  }

  expect(await readArchive(openDatabase(""), FILE)).toBe(rows);
  expect(await dump()).toBe(before);
  expect((await readBars({ marketId: "tin", base: "PT1M", shelf: "live" })).length).toBe(700);
  expect((await marksOf("tin"))[0].props.label).toBe('it\'s "quoted"');
  expect(await verifyEdition(number)).toMatchObject({ holds: true });

  // A column has had another name: what was written down then is put back under today's.
  await emptyTables();
  writeFileSync(FILE, resealed(text.replace(/^(\["scenario(?:s|_steps)",.*)"scenario":/gm, '$1"plan":')));
  expect(await readArchive(openDatabase(""), FILE)).toBe(rows);
  expect(await dump()).toBe(before);
  rmSync(FILE);
}, 90_000);
