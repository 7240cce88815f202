import { describe, expect, it } from "vitest";
import { evenly } from "./evenly.ts";

describe("what takes the same time whatever there was to do", () => {
  it("is done after what it waits for, however soon its work is", async () => {
    const order: string[] = [];
    const quick = evenly(() => Promise.resolve(void order.push("worked")), 40).then(() => order.push("done"));
    await new Promise((done) => setTimeout(done, 5));
    expect(order).toEqual(["worked"]);
    await quick;
    expect(order).toEqual(["worked", "done"]);
  });

  it("gives what the work gives, and fails as it fails", async () => {
    expect(await evenly(() => Promise.resolve(7), 1)).toBe(7);
    await expect(evenly(() => Promise.reject(new Error("no")), 1)).rejects.toThrow("no");
  });
});
