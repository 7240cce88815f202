import { Writable } from "node:stream";
import pino from "pino";
import { describe, expect, it } from "vitest";
import { OPTIONS } from "./log.ts";
import { underRequest } from "./requestId.ts";

describe("a line of the log", () => {
  it("says of which request it is, and cuts secrets out", () => {
    const lines: string[] = [];
    const to = new Writable({ write: (line: Buffer, _encoding, done) => (lines.push(line.toString()), done()) });
    const log = pino({ ...OPTIONS, level: "info" }, to);
    underRequest("r-1", () => log.info({ token: "s3cret" }, "asked"));
    log.info("by nobody");
    expect(lines.map((line) => JSON.parse(line) as object)).toMatchObject([
      { id: "r-1", msg: "asked" },
      { msg: "by nobody" },
    ]);
    expect(lines.join("")).not.toContain("s3cret");
    expect(lines[1]).not.toContain("r-1");
  });
});
