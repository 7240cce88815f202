import { afterEach, describe, expect, it, vi } from "vitest";
import { log } from "../server/log.ts";
import { underRequest } from "../server/requestId.ts";
import { streamTimeout } from "./entry.server.tsx";
import { later, LATEST } from "./later.server.ts";

afterEach(() => void vi.restoreAllMocks());

describe("what a page shows once it is there", () => {
  it("comes as it was found", async () => {
    expect(await later("days", () => Promise.resolve([1, 2]))).toEqual({ found: [1, 2] });
  });

  it.each<[string, () => Promise<never>, string]>([
    ["fails", () => Promise.reject(new Error("no such table")), "no such table"],
    ["takes too long", () => new Promise(() => {}), "took longer"],
  ])("has the request's number in its place where it %s, and one line of the log has it too", async (_, work, why) => {
    const written = vi.spyOn(log, "error").mockImplementation(() => {});
    expect(await underRequest("r-7", () => later("days", work, 20))).toEqual({ request: "r-7" });
    expect(written).toHaveBeenCalledTimes(1);
    expect(written.mock.calls[0][0]).toMatchObject({ what: "days" });
    expect(JSON.stringify(written.mock.calls[0][0])).toContain(why);
  });

  it("is given up before the answer itself is ended: nobody would write that down", () => {
    expect(LATEST).toBeLessThan(streamTimeout);
  });
});
