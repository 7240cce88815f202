import { once } from "node:events";
import { mkdtempSync, writeFileSync } from "node:fs";
import { createServer, type IncomingMessage } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { text } from "node:stream/consumers";
import { afterEach, describe, expect, it } from "vitest";
import { playFile } from "./outsideFeed.ts";

const ROWS = ["2024-03-01T09:00Z,1,2,1,2", "2024-03-01T09:01Z,2,3,2,3", "2024-03-01T09:02Z,3,4,3,4"];
const file = join(mkdtempSync(join(tmpdir(), "feed-")), "tin.csv");
writeFileSync(file, `time,open,high,low,close\r\n${ROWS.join("\r\n")}\r\n`);

const open: (() => void)[] = [];
afterEach(() => open.splice(0).forEach((close) => close()));

/** A desk that answers with these, one after the other, and remembers what it was sent. */
async function aDesk(answers: { status: number; body: unknown; head?: Record<string, string> }[]) {
  const sent: { request: IncomingMessage; body: string }[] = [];
  const server = createServer((request, response) => {
    void text(request).then((body) => {
      const { status, body: says, head } = answers[Math.min(sent.length, answers.length - 1)];
      sent.push({ request, body });
      response.writeHead(status, head).end(JSON.stringify(says));
    });
  }).listen(0, "127.0.0.1");
  open.push(() => server.close());
  await once(server, "listening");
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const feed = { address, token: "a token", market: "sable-tin", file, timeframe: "PT1M", zone: "UTC" };
  return { sent, feed: { ...feed, bars: 2, every: 1 } };
}

const taken = { status: 200, body: { added: 1, same: 0 } };

describe("a feed from outside", () => {
  it("sends bars in order, piece by piece, each under its head, with who sends them and what they are", async () => {
    const { sent, feed } = await aDesk([taken]);
    const said: string[] = [];
    expect(await playFile(feed, (line) => said.push(line))).toBe(2);
    const head = "time,open,high,low,close\n";
    expect(sent.map(({ body }) => body)).toEqual([`${head}${ROWS[0]}\n${ROWS[1]}\n`, `${head}${ROWS[2]}\n`]);
    const [{ request }] = sent;
    expect(request.url).toBe("/api/bars/sable-tin?timeframe=PT1M&zone=UTC&name=tin.csv");
    expect(request.headers).toMatchObject({ authorization: "Bearer a token", "content-type": "text/csv" });
    expect(said).toEqual(["2 of 3: 1 added, 0 known", "3 of 3: 1 added, 0 known"]);
  });

  it("sends again what a desk that is away or busy did not take, and loses none", async () => {
    const { sent, feed } = await aDesk([{ status: 503, body: {} }, { status: 429, body: {} }, taken]);
    const said: string[] = [];
    expect(await playFile(feed, (line) => said.push(line), 1)).toBe(2);
    expect(sent).toHaveLength(4);
    expect(new Set(sent.slice(0, 3).map(({ body }) => body)).size).toBe(1);
    expect(said[0]).toContain("answers 503");
  });

  it("asks for the report of what a desk stores while it answers others, until it is there", async () => {
    const { sent, feed } = await aDesk([
      { status: 202, body: { state: "working" }, head: { Location: "/api/imports/7" } },
      { status: 200, body: { state: "working", step: "storing", share: 0.5 } },
      { status: 200, body: { state: "stored", report: { added: 2, same: 0 } } },
      taken,
    ]);
    expect(await playFile(feed, () => {}, 1)).toBe(3);
    expect(sent.map(({ request: { method, url = "" } }) => `${method} ${url.split("?")[0]}`)).toEqual([
      "POST /api/bars/sable-tin",
      "GET /api/imports/7",
      "GET /api/imports/7",
      "POST /api/bars/sable-tin",
    ]);
  });

  it("stops at what is refused, in the desk's own words", async () => {
    const { sent, feed } = await aDesk([{ status: 422, body: { title: "A row cannot be read.", detail: "Line 2." } }]);
    await expect(playFile(feed, () => undefined)).rejects.toThrow(
      "The desk answers 422. A row cannot be read. Line 2.",
    );
    expect(sent).toHaveLength(1);
  });
});
