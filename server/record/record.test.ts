import { spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { existsSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { QueryTypes, type Sequelize } from "sequelize";
import { beforeAll, beforeEach, describe, expect, it } from "vitest";
import { appendBars } from "../bars/chunks.ts";
import { transact } from "../database/connection.ts";
import { Edition, Market, OutcomeNoteRow, RecordEntry, RecordHead } from "../database/models.ts";
import { saveScenario } from "../desk/scenarios.ts";
import { advance } from "../intake/feed.ts";
import { createDraft, saveDraft } from "../publishing/drafts.ts";
import { followUpsOf, verifyEdition } from "../publishing/editions.ts";
import { publish } from "../publishing/publish.ts";
import { aMarket, anAnalyst, minutes, setClock, watchersOf, withTables } from "../testing.ts";
import { openRecord } from "./adopt.ts";
import { appendToRecord } from "./append.ts";
import { canonicalText, sha256 } from "./canonical.ts";
import { checkRecord, forgetCheck } from "./check.ts";
import { entrySha, outcomeDigest, type EntryBody } from "./entry.ts";
import { chainFile, readEntries, recordFile } from "./file.ts";
import { keptHeads, stampOf } from "./heads.ts";
import { idOfKey, isSigned, recordFolder, signerOf } from "./keys.ts";
import { verifyChain, verifyRecord } from "./verify.ts";

withTables();

const START = Date.UTC(2024, 0, 2);
const MINUTE = 60_000;
const ids: string[] = [];

/** Three editions with a scenario each, the feed gone on until the first of them has ended, and a note at it. */
beforeAll(async () => {
  const [market, author] = [await aMarket(), await anAnalyst()];
  await transact(async (transaction) => {
    await appendBars(
      { marketId: market.id, base: "PT1M", shelf: "live" },
      minutes(
        START,
        Array.from({ length: 600 }, () => 100),
      ),
      transaction,
    );
    await appendBars(
      { marketId: market.id, base: "PT1M", shelf: "tape" },
      minutes(START + 600 * MINUTE, [
        102,
        102,
        102,
        102,
        102,
        102,
        103,
        104,
        105,
        106,
        ...Array.from({ length: 60 }, () => 107),
      ]),
      transaction,
    );
  });
  await setClock(START + 600 * MINUTE);
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
    await saveScenario(market.id, { version: 0, step: "save", scenario }, author.id);
    const draft = await createDraft(author.id);
    await saveDraft(draft.id, {
      version: 1,
      title: `Outlook ${n + 1}`,
      body: "Words.",
      sections: [{ market: market.id, rung: "PT15M", scenarios: [id] }],
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
    await appendToRecord(
      [{ kind: "note", edition: 1, scenarioId: ids[0], sequence: 1, digest: outcomeDigest({ ...of, content: note }) }],
      transaction,
    );
  });
}, 60_000);
beforeEach(() => forgetCheck());

const database = () => Edition.sequelize as Sequelize;
const run = (statement: string, ...values: unknown[]) =>
  database().query(statement, { replacements: values, type: QueryTypes.RAW });

/** Everything the tampering may touch, to be put back. */
const TABLES = [
  "editions",
  "edition_pictures",
  "watchers",
  "follow_ups",
  "outcome_notes",
  "record_entries",
  "record_head",
];

/** Does something with the database that nobody may, looks what the verification says, and puts everything back. */
async function faultsAfter(tamper: () => Promise<unknown>): Promise<string> {
  await run("SET foreign_key_checks = 0");
  for (const table of TABLES) await run(`CREATE TABLE kept_${table} AS SELECT * FROM ${table}`);
  try {
    await tamper();
    forgetCheck();
    return (await checkRecord()).faults.join("\n");
  } finally {
    for (const table of TABLES) {
      await transact(async () => {
        await run("SET foreign_key_checks = 0");
        await run(`DELETE FROM ${table}`);
        await run(`INSERT INTO ${table} SELECT * FROM kept_${table}`);
        await run("SET foreign_key_checks = 1");
      });
      await run(`DROP TABLE kept_${table}`);
    }
  }
}

/** Seals an entry's row anew as somebody would who has the database and not the key. */
async function reseal(from: number): Promise<void> {
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

async function rewrite(number: number, change: (text: string) => string): Promise<void> {
  const row = await Edition.findByPk(number, { rejectOnEmpty: true });
  const canonical = change(row.canonical);
  await row.update({ canonical, sha256: sha256(canonical) });
}

describe("a record that nobody touched", () => {
  it("holds, from its first entry to its last, and every edition says so", async () => {
    const check = await checkRecord();
    expect(check).toMatchObject({ holds: true, faults: [] });
    // Three editions, six follow-ups of the first, one note.
    expect(check.entries).toBe(10);
    for (const number of [1, 2, 3]) expect(await verifyEdition(number)).toMatchObject({ holds: true });
    expect(keptHeads().map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  });
  it("holds as a file as well, without what is the desk's own", async () => {
    const file = JSON.parse(JSON.stringify(await recordFile())) as Awaited<ReturnType<typeof recordFile>>;
    expect(verifyRecord(file)).toEqual([]);
    expect(file.followed).toBeUndefined();
  });
});

describe("a record that is added to while it is read", () => {
  it("holds at every moment", { timeout: 30_000 }, async () => {
    let going = true;
    let number = 1;
    const adding = (async () => {
      while (going) {
        const of = { edition: 2, scenarioId: ids[1], sequence: number++, createdAt: START };
        const note = {
          note: "restated" as const,
          cause: "undo" as const,
          time: START,
          from: START,
          to: START,
          same: true,
        };
        await transact(async (transaction) => {
          await OutcomeNoteRow.create({ ...of, note }, { transaction });
          await appendToRecord(
            [
              {
                kind: "note",
                edition: 2,
                scenarioId: ids[1],
                sequence: of.sequence,
                digest: outcomeDigest({ ...of, content: note }),
              },
            ],
            transaction,
          );
        });
        await new Promise((done) => setTimeout(done, 5));
      }
    })();
    for (let n = 0; n < 12; n++) {
      forgetCheck();
      expect((await checkRecord()).faults).toEqual([]);
    }
    going = false;
    await adding;
    expect(number).toBeGreaterThan(10);
    // What was added goes again, so that the others find the record they know.
    await run("DELETE FROM outcome_notes WHERE edition = 2");
    await run("DELETE FROM record_entries WHERE number > 10");
    await run("UPDATE record_head SET number = 10, sha256 = (SELECT sha256 FROM record_entries WHERE number = 10)");
    const heads = join(recordFolder(), "heads.jsonl");
    writeFileSync(heads, `${readFileSync(heads, "utf8").trimEnd().split("\n").slice(0, 10).join("\n")}\n`);
  });
});

describe("tampering with the database is named", () => {
  it.each<[string, () => Promise<unknown>, RegExp]>([
    [
      "a word of an edition",
      () => run("UPDATE editions SET canonical = REPLACE(canonical, 'Words.', 'Other.') WHERE number = 2"),
      /Edition 2: the text does not fit its hash/,
    ],
    [
      "a word, with its hash",
      () => rewrite(2, (text) => text.replace("Words.", "Other.")),
      /Edition 2: the text is not the one that was entered/,
    ],
    [
      "every edition, with hashes and links and entries, but no key",
      async () => {
        let previous = "0".repeat(64);
        for (const number of [1, 2, 3]) {
          await rewrite(number, (text) => canonicalText({ ...(JSON.parse(text) as object), body: "Other.", previous }));
          const row = await Edition.findByPk(number, { rejectOnEmpty: true });
          await row.update({ previousSha256: previous });
          previous = row.sha256;
        }
        await reseal(1);
      },
      /Entry 1 \(edition 1\) is not signed by a key of this record/,
    ],
    [
      "the last edition deleted",
      async () => {
        await run("DELETE FROM edition_pictures WHERE edition = 3");
        await run("DELETE FROM watchers WHERE subject LIKE '3/%'");
        await run("DELETE FROM editions WHERE number = 3");
      },
      /Edition 3 was published and is gone/,
    ],
    [
      "the last edition deleted with its entry and all after it",
      async () => {
        await run("DELETE FROM follow_ups");
        await run("DELETE FROM outcome_notes");
        await run("DELETE FROM edition_pictures WHERE edition = 3");
        await run("DELETE FROM watchers WHERE subject LIKE '3/%'");
        await run("DELETE FROM editions WHERE number = 3");
        await run("DELETE FROM record_entries WHERE number > 2");
        await run("UPDATE record_head SET number = 2, sha256 = (SELECT sha256 FROM record_entries WHERE number = 2)");
      },
      /The record was cut short: it ends with entry 2, and head 10 was kept/,
    ],
    [
      "a title in the list",
      () => run("UPDATE editions SET title = 'We said so' WHERE number = 1"),
      /Edition 1: the title in the list is not the one that was published/,
    ],
    [
      "when it was published",
      () => run("UPDATE editions SET publishedAt = publishedAt - 86400000 WHERE number = 2"),
      /Edition 2: the list says it was published at another time/,
    ],
    [
      "a follow-up set to +3 R",
      () => run(`UPDATE follow_ups SET event = JSON_SET(event, '$.r', 3) WHERE sequence = 6`),
      /Follow-up 6 of scenario .* in edition 1 is not what was entered/,
    ],
    [
      "a follow-up deleted",
      () => run("DELETE FROM follow_ups WHERE sequence = 6"),
      /Follow-up 6 of scenario .* was entered and is gone/,
    ],
    [
      "a follow-up made up",
      () =>
        run(
          "INSERT INTO follow_ups (edition, scenarioId, sequence, event, createdAt) VALUES (2, ?, 1, ?, 0)",
          ids[1],
          JSON.stringify({ event: "completed", time: 0, price: 1, r: 9 }),
        ),
      /Follow-up 1 of scenario .* in edition 2 was never entered/,
    ],
    [
      "two follow-ups in each other's place",
      async () => {
        await run("UPDATE follow_ups SET sequence = 60 WHERE sequence = 5");
        await run("UPDATE follow_ups SET sequence = 5 WHERE sequence = 6");
        await run("UPDATE follow_ups SET sequence = 6 WHERE sequence = 60");
      },
      /Follow-up 5 .* is not what was entered/,
    ],
    [
      "when a follow-up was known",
      () => run("UPDATE follow_ups SET createdAt = 1 WHERE sequence = 1"),
      /Follow-up 1 .* is not what was entered/,
    ],
    [
      "a note",
      () =>
        run(
          `UPDATE outcome_notes SET note = JSON_SET(note, '$.same', CAST('false' AS JSON))`.replace(
            "CAST('false' AS JSON)",
            "FALSE",
          ),
        ),
      /Note 1 .* is not what was entered/,
    ],
    ["a note deleted", () => run("DELETE FROM outcome_notes"), /Note 1 .* was entered and is gone/],
    [
      "a picture",
      () => run("UPDATE edition_pictures SET png = 'other' WHERE edition = 1"),
      /Edition 1: the picture of section 1 is not the one that was published/,
    ],
    [
      "a picture deleted",
      () => run("DELETE FROM edition_pictures WHERE edition = 2"),
      /Edition 2: the picture of section 1 is missing/,
    ],
    ["an entry in the middle deleted", () => run("DELETE FROM record_entries WHERE number = 4"), /Entry 4 is missing/],
    [
      "an entry sealed with a key of one's own",
      async () => {
        const own = signerOf("own-of-the-test");
        renameSync(join(recordFolder(), `${own.keyId}.pub`), join(recordFolder(), "away"));
        const entry = await RecordEntry.findByPk(5, { rejectOnEmpty: true });
        await entry.update({ keyId: own.keyId, signature: own.sign(entry.sha256) });
      },
      /Entry 5 .* is not signed by a key of this record/,
    ],
    [
      "how a scenario stands",
      () => run(`UPDATE watchers SET state = JSON_SET(state, '$.trade.realised', 5) WHERE subject LIKE '1/%'`),
      /Scenario .* of edition 1: its result does not fit what was recorded/,
    ],
    [
      "a scenario that is said to be over",
      () => run("UPDATE watchers SET done = 1 WHERE subject LIKE '2/%'"),
      /Scenario .* of edition 2: whether it is over does not fit/,
    ],
    [
      "from when on a scenario is followed",
      () => run("UPDATE watchers SET since = since + 60000 WHERE subject LIKE '3/%'"),
      /Scenario .* of edition 3 is followed from another moment on/,
    ],
    [
      "a scenario that nobody follows any more",
      () => run("DELETE FROM watchers WHERE subject LIKE '3/%'"),
      /Scenario .* of edition 3 is followed by nobody/,
    ],
    [
      "where the record ends",
      () => run("UPDATE record_head SET sha256 = ?", "f".repeat(64)),
      /Where the record ends is told otherwise/,
    ],
  ])("%s", async (_what, tamper, named) => {
    expect(await faultsAfter(tamper)).toMatch(named);
    forgetCheck();
    expect((await checkRecord()).faults).toEqual([]);
  });
});

describe("what is kept outside the database", () => {
  it("a head that anybody kept shows that the record was rewritten since", async () => {
    const kept = keptHeads();
    const chain = await recordFile();
    expect(verifyChain(chain, kept)).toEqual([]);
    const cut = { ...chain, heads: [], entries: chain.entries.slice(0, 4) };
    expect(verifyChain(cut, kept).at(-1)).toMatch(/cut short: it ends with entry 4/);
    expect(verifyChain(cut)).toEqual([]);
  });
  it("a head's time stamp holds for that head and moment alone", async () => {
    const chain = await recordFile();
    const [head] = keptHeads();
    const earlier = { ...head, stamp: { ...head.stamp, at: head.stamp.at - 1 } };
    expect(verifyChain({ ...chain, heads: [earlier] })).toEqual(["The time stamp of head 1 does not hold."]);
    expect(verifyChain({ ...chain, heads: [{ ...head, stamp: stampOf("another") }] })).toEqual([
      "The time stamp of head 1 does not hold.",
    ]);
  });
  it("a line of it that a crash cut short is no head, and the next start keeps what is missing", async () => {
    const file = join(recordFolder(), "heads.jsonl");
    const text = readFileSync(file, "utf8");
    const lines = text.trimEnd().split("\n");
    writeFileSync(file, `${lines.slice(0, 8).join("\n")}\n${lines[8].slice(0, 40)}`);
    expect(keptHeads()).toHaveLength(8);
    await openRecord();
    expect(keptHeads().map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
    expect((await checkRecord()).faults).toEqual([]);
  });
  it("an emptied record is not begun anew where heads of it were kept", async () => {
    const faults = await faultsAfter(async () => {
      await run("DELETE FROM record_entries");
      await run("UPDATE record_head SET number = 0, sha256 = ?", "0".repeat(64));
      await openRecord();
      expect(await RecordEntry.count()).toBe(0);
    });
    expect(faults).toMatch(/Edition 1 was never entered/);
  });
  it("what was published before there was a record is entered in order of time", async () => {
    const heads = join(recordFolder(), "heads.jsonl");
    renameSync(heads, `${heads}.away`);
    try {
      const faults = await faultsAfter(async () => {
        await run("DELETE FROM record_entries");
        await run("UPDATE record_head SET number = 0, sha256 = ?", "0".repeat(64));
        await openRecord();
        expect(await RecordEntry.count()).toBe(10);
      });
      expect(faults).toBe("");
    } finally {
      renameSync(`${heads}.away`, heads);
    }
  });
});

describe("the command that checks from outside", () => {
  const file = (name: string, content: object) => {
    const path = join(recordFolder(), name);
    writeFileSync(path, JSON.stringify(content));
    return path;
  };
  const verify = (...files: string[]) => {
    const { status, stdout, stderr } = spawnSync("node_modules/.bin/tsx", ["commands/verify.ts", ...files], {
      encoding: "utf8",
    });
    return { status, said: stdout + stderr };
  };
  it(
    "says of a file whether it holds, against a chain that was kept as well, and names what does not",
    { timeout: 60_000 },
    async () => {
      const record = await recordFile();
      const [whole, chain] = [file("whole.json", record), file("chain.json", await chainFile())];
      expect(verify(whole)).toMatchObject({
        status: 0,
        said: expect.stringMatching(
          /10 entries, 3 editions with 6 follow-ups and 1 notes\nhead [0-9a-f]{64}\nkey {2}[0-9a-f]{16} \(compare.*\nEverything holds/s,
        ) as string,
      });
      const bent = file("bent.json", {
        ...record,
        followUps: record.followUps.map((one) => ({ ...one, event: { ...one.event, r: 3 } })),
      });
      expect(verify(bent)).toMatchObject({
        status: 1,
        said: expect.stringMatching(
          /\u00d7 Follow-up 1 of scenario .* is not what was entered[^]*6 things do not hold/,
        ) as string,
      });
      const cut = file("cut.json", { ...(await chainFile()), heads: [], entries: record.entries.slice(0, 3) });
      expect(verify(cut, chain)).toMatchObject({
        status: 1,
        said: expect.stringContaining("cut short: it ends with entry 3") as string,
      });
      // A record made anew brings keys of its own: they count for nothing beside those that were kept.
      const own = signerOf("own-of-the-command");
      const forged = file("forged.json", {
        ...record,
        keys: { [own.keyId]: "" },
        entries: record.entries.map((one) => ({ ...one, keyId: own.keyId, signature: own.sign(one.sha256) })),
      });
      expect(verify(forged, chain).said).toContain("Entry 1 (edition 1) is not signed by a key of this record");
      expect(
        verify(file("none.json", { format: "even-compass-record-1", keys: {}, heads: [], entries: [] })),
      ).toMatchObject({ status: 1, said: expect.stringContaining("parts missing") as string });
    },
  );
});

describe("following what was frozen", () => {
  it("an edition that is not what was entered leads to no follow-up", async () => {
    const before = (await followUpsOf(3)).length;
    await faultsAfter(async () => {
      // Its trigger would have been met long ago.
      await rewrite(3, (text) => text.replace('"price":1000000', '"price":50'));
      await advance(10);
      expect((await followUpsOf(3)).length).toBe(before);
    });
    // Nor does one whose entry was given the digest of another text.
    await faultsAfter(async () => {
      await rewrite(3, (text) => text.replace('"price":1000000', '"price":60'));
      await RecordEntry.update(
        { digest: (await Edition.findByPk(3))?.sha256 },
        { where: { kind: "edition", edition: 3 } },
      );
      await advance(10);
      expect((await followUpsOf(3)).length).toBe(before);
    });
    // The same bars, the text as it was: nothing either, and it is followed on.
    await advance(10);
    expect((await followUpsOf(3)).length).toBe(before);
    // It waited where it stood, and has been told what came meanwhile.
    const [watcher] = await watchersOf(3);
    expect(watcher.through).toBeNull();
    expect((await Market.findByPk(watcher.marketId))?.toldThrough).toBe(START + 642 * MINUTE);
  });
});

describe("signing", () => {
  // RFC 8032, section 7.1, TEST 2: key, message of one byte 0x72, signature.
  const raw = Buffer.from("3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c", "hex").toString("base64");
  const signature = Buffer.from(
    "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00",
    "hex",
  ).toString("base64");
  it("is Ed25519 as RFC 8032 has it", () => {
    expect(isSigned("r", signature, raw)).toBe(true);
    expect(isSigned("s", signature, raw)).toBe(false);
    expect(isSigned("r", signature.replace("k", "l"), raw)).toBe(false);
    expect(isSigned("r", signature, undefined)).toBe(false);
    expect(isSigned("r", "", "nonsense")).toBe(false);
  });
  it("the key lies beside the database, readable by nobody else", () => {
    const { keyId } = signerOf();
    expect(existsSync(join(recordFolder(), `${keyId}.pub`))).toBe(true);
    expect(idOfKey(readFileSync(join(recordFolder(), `${keyId}.pub`), "utf8").trim())).toBe(keyId);
  });
  it("an entry's digest covers every field of it", () => {
    const body: EntryBody = {
      format: "even-compass-entry-1",
      number: 1,
      kind: "note",
      edition: 1,
      scenarioId: "a",
      sequence: 1,
      digest: "b",
      at: 1,
      previous: "c",
    };
    const changed = (Object.keys(body) as (keyof EntryBody)[]).map((field) =>
      entrySha({ ...body, [field]: "other" } as EntryBody),
    );
    expect(new Set([entrySha(body), ...changed]).size).toBe(10);
  });
});
