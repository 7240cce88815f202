import { readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { wordsOf } from "#core/edition/words";
import { leavesOf, textOfLeaves } from "./leaves.ts";
import { transact } from "../database/connection.ts";
import { Edition, OutcomeNoteRow, RecordEntry } from "../database/models.ts";
import { verifyEdition } from "../publishing/editions.ts";
import { appendToRecord } from "./append.ts";
import { checkRecord, forgetCheck } from "./check.ts";
import { notePart } from "./parts.ts";
import { recordFile } from "./file.ts";
import { keptHeads } from "./heads.ts";
import { recordFolder, signerOf } from "../signing.ts";
import { faultsAfter, reseal, rewrite, run, START, withRecord } from "../recordTesting.ts";
import { verifyRecord } from "./verify.ts";

const ids = withRecord();

describe("a record that nobody touched", () => {
  it("holds, from its first entry to its last, and every edition says so", async () => {
    const check = await checkRecord();
    expect(check).toMatchObject({ holds: true, faults: [] });
    // Three editions, the bars that the first call hangs on, six follow-ups of it, one note.
    expect(check.entries).toBe(11);
    for (const number of [1, 2, 3]) expect(await verifyEdition(number)).toMatchObject({ holds: true });
    expect(keptHeads().map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
  });
  it("holds as a file as well, without what is the desk's own", async () => {
    const file = JSON.parse(JSON.stringify(await recordFile())) as Awaited<ReturnType<typeof recordFile>>;
    expect(verifyRecord(file)).toEqual([]);
    expect(file.desk).toBeUndefined();
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
          await appendToRecord([notePart({ ...of, note })], transaction);
        });
        await new Promise((done) => setTimeout(done, 5));
      }
    })();
    // Read again and again for as long as it grows, however slow either is.
    for (let n = 0; n < 12 || number <= 11; n++) {
      forgetCheck();
      expect((await checkRecord()).faults).toEqual([]);
    }
    going = false;
    await adding;
    expect(number).toBeGreaterThan(11);
    // What was added goes again, so that the others find the record they know.
    await run("DELETE FROM outcome_notes WHERE edition = 2");
    await run("DELETE FROM record_entries WHERE number > 11");
    await run("UPDATE record_head SET number = 11, sha256 = (SELECT sha256 FROM record_entries WHERE number = 11)");
    const heads = join(recordFolder(), "heads.jsonl");
    writeFileSync(heads, `${readFileSync(heads, "utf8").trimEnd().split("\n").slice(0, 11).join("\n")}\n`);
  });
});

/** An edition with other words after another one, as somebody would write it who knows how it is stored. */
function reworded(text: string, previous: string): string {
  const leaves = (leavesOf(text) ?? []).map((leaf) => {
    if (leaf.path === "") return { ...leaf, content: { ...(leaf.content as object), previous } };
    return leaf.see === "words" ? { ...leaf, content: { kind: "words", words: wordsOf("Other.") } } : leaf;
  });
  return textOfLeaves(leaves);
}

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
          await rewrite(number, (text) => reworded(text, previous));
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
      /The record was cut short: it ends with entry 2, and head 11 was kept/,
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
      () =>
        run(`UPDATE artefacts SET bytes = 'other' WHERE sha256 =
             (SELECT MIN(pngSha256) FROM edition_pictures WHERE edition = 1 AND pngSha256 <> '')`),
      /Edition 1: the picture "[^"]+" of section 1 is not the one that was published/,
    ],
    [
      "a picture deleted",
      () => run("DELETE FROM edition_pictures WHERE edition = 2"),
      /Edition 2: the picture "[^"]+" of section 1 is missing/,
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
      /Scenario .* of edition 1: where it stands is not what its bars lead to/,
    ],
    [
      "a scenario that is said to be over",
      () => run("UPDATE watchers SET done = 1 WHERE subject LIKE '2/%'"),
      /Scenario .* of edition 2: whether it is over is not what its bars lead to/,
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
