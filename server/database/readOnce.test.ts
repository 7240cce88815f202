import { randomUUID } from "node:crypto";
import { QueryTypes } from "sequelize";
import { describe, expect, it, vi } from "vitest";
import { beginSession, personOf } from "../accounts/sessions.ts";
import { writeUses } from "../accounts/uses.ts";
import { aReader, withTables } from "../testing.ts";
import { theDatabase, transact, writesSoFar } from "./connection.ts";
import { ReaderChoicesRow, Session } from "./models.ts";
import { readOnce } from "./readOnce.ts";

withTables();

describe("what many ask for at once", () => {
  it("is read once, and anew after this process has written", async () => {
    const what = [randomUUID()];
    const read = vi.fn(() => ReaderChoicesRow.count());
    const both = await Promise.all([readOnce(what, read), readOnce(what, read)]);
    await readOnce(what, read);
    expect(read).toHaveBeenCalledTimes(1);
    await ReaderChoicesRow.destroy({ where: { accountId: randomUUID() } });
    expect(await readOnce(what, read)).toBe(both[0]);
    expect(read).toHaveBeenCalledTimes(2);
  });

  it("is not read anew because somebody came: that a session was used is shown to nobody else", async () => {
    const { id } = await aReader();
    const token = await beginSession(id, "a browser");
    await Session.update({ seenAt: Date.now() - 3_600_000 }, { where: { accountId: id } });
    // Whatever else of this process writes meanwhile is counted as well, and told apart by its words.
    let others = 0;
    theDatabase().addHook("afterQuery", "counted", ({ type }, query: { constructor: unknown; sql?: string }) => {
      if (type !== QueryTypes.SELECT && !query.sql?.includes("`sessions`")) others++;
    });
    const before = writesSoFar();
    expect(await personOf(token)).toMatchObject({ id });
    await writeUses();
    theDatabase().removeHook("afterQuery", "counted");
    expect(writesSoFar() - before).toBe(others);
    expect((await Session.findOne({ where: { accountId: id } }))!.seenAt).toBeGreaterThan(Date.now() - 60_000);
  });

  it("is told apart by all that it depends on", async () => {
    const what = randomUUID();
    expect(await readOnce([what, { wait: 0 }], () => Promise.resolve("at once"))).toBe("at once");
    expect(await readOnce([what, { wait: 24 }], () => Promise.resolve("later"))).toBe("later");
  });

  it("is asked for again where it could not be read", async () => {
    const what = [randomUUID()];
    await expect(readOnce(what, () => Promise.reject(new Error("away")))).rejects.toThrow("away");
    expect(await readOnce(what, () => Promise.resolve("there"))).toBe("there");
  });

  it("is not shared within a transaction, which may see what others must not", async () => {
    const what = [randomUUID()];
    await transact(async () => expect(await readOnce(what, () => Promise.resolve("mine"))).toBe("mine"));
    expect(await readOnce(what, () => Promise.resolve("everybody's"))).toBe("everybody's");
  });
});
