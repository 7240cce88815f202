import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { Edition, RecordEntry } from "../database/models.ts";
import { advance } from "../intake/feed.ts";
import { followUpsOf } from "../publishing/editions.ts";
import { watchersOf } from "../testing.ts";
import { openRecord } from "./adopt.ts";
import { checkRecord } from "./check.ts";
import { entrySha, type EntryBody } from "./entry.ts";
import { chainFile } from "./chain.ts";
import { recordFile } from "./file.ts";
import { lastPage } from "./told/book.ts";
import { keptHeads, stampOf } from "./heads.ts";
import { idOfKey, isSigned, recordFolder, signerOf } from "../signing.ts";
import { faultsAfter, MINUTE, rewrite, run, START, withRecord } from "../recordTesting.ts";
import { verifyChain } from "./verify.ts";

withRecord();

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
    expect(keptHeads().map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
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
          /11 entries, 3 editions with 6 follow-ups and 1 notes\nhead \w{64}\nkey .*\nEverything in the file holds/s,
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
        verify(file("none.json", { format: "even-compass-record-2", keys: {}, heads: [], entries: [] })),
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
    expect((await lastPage(watcher.marketId))?.through).toBe(START + 622 * MINUTE);
    expect((await checkRecord()).faults).toEqual([]);
  });
});

describe("signing", () => {
  // RFC 8032, section 7.1, TEST 2: key, message of one byte 0x72, signature.
  const raw = Buffer.from("3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c", "hex").toString("base64");
  const signature = Buffer.from(
    "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da" +
      "085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00",
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
      format: "even-compass-entry-2",
      number: 1,
      digest: "b",
      at: 1,
      previous: "c",
    };
    const changed = (["number", "digest", "at", "previous"] as const).map((field) =>
      entrySha({ ...body, [field]: "other" } as EntryBody),
    );
    expect(new Set([entrySha(body), ...changed]).size).toBe(5);
  });
});
