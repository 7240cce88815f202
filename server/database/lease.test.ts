import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { withTables } from "../testing.ts";
import { theDatabase } from "./connection.ts";
import { againUnderLease, endLease, takeLease } from "./lease.ts";

withTables();

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

describe("a lease", () => {
  it("is held by one of many who ask at once, for as long as that one says so", async () => {
    const name = randomUUID();
    const asked = Array.from({ length: 12 }, () => randomUUID());
    const held = await Promise.all(asked.map((holder) => takeLease(name, holder)));
    expect(held.filter(Boolean)).toHaveLength(1);
    const holder = asked[held.indexOf(true)];
    const other = asked[(held.indexOf(true) + 1) % 12];
    expect(await takeLease(name, holder)).toBe(true);
    expect(await takeLease(name, other)).toBe(false);
    expect(await takeLease(randomUUID(), other)).toBe(true);
  });

  it("is another's once its holder lets go or is silent for so long, and not because others let go", async () => {
    const [name, one, two] = [randomUUID(), randomUUID(), randomUUID()];
    expect(await takeLease(name, one)).toBe(true);
    await endLease(name, two);
    expect(await takeLease(name, two)).toBe(false);
    // So long ago that it is over.
    await theDatabase().query("UPDATE leases SET until = until - 5100 WHERE name = :name", { replacements: { name } });
    expect(await takeLease(name, two)).toBe(true);
    expect(await takeLease(name, one)).toBe(false);
    await endLease(name, two);
    expect(await takeLease(name, one)).toBe(true);
  });

  it("lets one process work at a time; another goes on at once when that one ends", async () => {
    const name = randomUUID();
    const worked: string[] = [];
    const run = (who: string) =>
      againUnderLease(name, () => Promise.resolve(void worked.push(who)), 5, "it could not be worked");
    const first = run("first");
    await expect.poll(() => worked.length).toBeGreaterThan(2);
    const second = run("second");
    await pause(60);
    expect(new Set(worked)).toEqual(new Set(["first"]));
    first();
    await expect.poll(() => worked.includes("second")).toBe(true);
    second();
  });
});
