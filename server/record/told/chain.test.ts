import { existsSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { transact } from "../../database/connection.ts";
import { RecordEntry } from "../../database/models.ts";
import { recordFolder } from "../../signing.ts";
import { withRecord } from "../../recordTesting.ts";
import { failureOf } from "../../testing.ts";
import { appendToRecord } from "../append.ts";
import { CHAIN_PART, chainFile, chainPart } from "../chain.ts";
import { outcomeDigest, textOfPart } from "../entry.ts";
import { digestOf } from "../digest.ts";
import { readEntries } from "../file.ts";
import { verifyChain } from "../verify.ts";

const ids = withRecord();

describe("the chain that anybody is given", () => {
  it("tells nothing of what its entries are of", async () => {
    const text = JSON.stringify(await chainFile());
    for (const said of [...ids, "followUp", "note", "edition", "scenario", "price", "part"])
      expect(text, said).not.toContain(said);
    expect(Object.keys((await chainFile()).entries[0]).sort()).toEqual(
      ["at", "digest", "format", "keyId", "number", "previous", "sha256", "signature"].sort(),
    );
    expect(verifyChain(await chainFile())).toEqual([]);
  });

  it("gives no price to whoever tries them all: a digest has a salt", async () => {
    // What an outside review did: every price and every millisecond after a follow-up was stored, hashed and compared.
    const entries = await readEntries();
    const entered = entries.find(({ kind, part }) => kind === "followUp" && part?.includes('"entered"'));
    const { createdAt, content } = JSON.parse(entered?.part ?? "").leaves[1].content as {
      createdAt: number;
      content: object;
    };
    const of = { edition: 1, scenarioId: ids[0], sequence: entered?.sequence ?? 0, createdAt, content };
    const { digest } = entered!;
    expect(digest).not.toBe(outcomeDigest(of));
    // The very part made again has another digest: without its salts nobody finds out that it is the one.
    const again = textOfPart({ kind: "followUp", ...of, see: "scenarios+orders" });
    expect(digestOf(again)).not.toBe(digest);
    expect(digestOf(entered!.part!)).toBe(digest);
  });

  it("comes in parts, of which full ones are files that are never made again", async () => {
    expect(await failureOf(chainPart(7))).toMatchObject({ code: "after", status: 400 });
    expect(await chainPart(0)).toHaveProperty("text");
    const note = {
      kind: "restated" as const,
      edition: 0,
      sequence: 0,
      createdAt: 1,
      content: {},
      see: "desk" as const,
    };
    await transact((transaction) =>
      appendToRecord(
        Array.from({ length: CHAIN_PART }, (_, n) => ({ ...note, scenarioId: `filled ${n}` })),
        transaction,
      ),
    );
    const first = await chainPart(0);
    expect(first).toEqual({ file: join(recordFolder(), "chain-0.json") });
    expect(existsSync(join(recordFolder(), "chain-0.json"))).toBe(true);
    const [one, two] = [await chainFile(0, CHAIN_PART), await chainFile(CHAIN_PART, CHAIN_PART)];
    expect([one.next, two.next]).toEqual([CHAIN_PART, undefined]);
    const whole = { ...one, heads: [...one.heads, ...two.heads], entries: [...one.entries, ...two.entries] };
    expect(whole.entries).toHaveLength(await RecordEntry.count());
    expect(verifyChain(whole)).toEqual([]);
  });
});
