import { rmSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { run } from "../../recordTesting.ts";
import { recordFolder } from "../../signing.ts";
import { withTables } from "../../testing.ts";
import { forgetReplays } from "../../watch/callReplays.ts";
import { readPages } from "./book.ts";
import { anArmedCall, append, MINUTE, said, START } from "../../toldTesting.ts";

withTables();

describe("calls that were followed before pages were kept", () => {
  it("go on from where the desk had them, and nothing of them is said twice", async () => {
    const { market, edition } = await anArmedCall();
    // A desk of before: its calls stand in rows and in the record, and there is no page of what they were told.
    await run("DELETE FROM told_pages");
    await run("DELETE FROM told_bars");
    await run("DELETE FROM record_entries WHERE kind = 'bars'");
    await run("UPDATE markets SET toldThrough = ?", START + 15 * MINUTE);
    rmSync(join(recordFolder(), "told"), { recursive: true });
    forgetReplays();
    await append(market, 15, [102]);
    expect(await said(edition)).toEqual(["triggered 103", "entered 102"]);
    const [first] = await readPages(market);
    expect(Object.values(first.facts?.adopted ?? {})).toMatchObject([{ events: 1 }]);
    forgetReplays();
    await append(market, 16, [103, 104.5]);
    expect(await said(edition)).toEqual(["triggered 103", "entered 102", "target 104", "breakEven 102"]);
  });
});
