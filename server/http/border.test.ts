import { once } from "node:events";
import { createServer, type Server } from "node:http";
import { connect, type AddressInfo } from "node:net";
import { createReadableStreamFromReadable } from "@react-router/node";
import express from "express";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { failureOf } from "../testing.ts";
import { bodyLimit, limitBodies } from "./bodies.ts";
import { deadline, properRequests } from "./guards.ts";
import { dropUnread } from "./refuse.ts";
import { keepNothing, makeNonce, securityHeaders } from "./headers.ts";
import { countRequest, inTurn } from "./rates.ts";

let server: Server;
let read = 0;

beforeAll(async () => {
  const app = express();
  app.use(dropUnread, makeNonce, securityHeaders(true), keepNothing, properRequests, limitBodies, deadline(300, 3000));
  app.get("/kept", (_request, response) => void response.setHeader("Cache-Control", "max-age=60").send("kept"));
  // As the framework does: what is sent is made a stream of another kind, of which nothing is read.
  app.post("/unread", (request, response) => {
    createReadableStreamFromReadable(request);
    setTimeout(() => response.status(415).send("not that"), 50);
  });
  app.get("/slow", () => {});
  app.use((request, response) => {
    request.on("data", (part: Buffer) => (read += part.length));
    request.on("end", () => response.send("read"));
  });
  server = createServer(app).listen(0, "127.0.0.1");
  await once(server, "listening");
});
afterAll(() => void server.closeAllConnections());

/** Sends lines as they are; the status and head of what is answered. */
async function raw(lines: string[], body = ""): Promise<{ status: number; head: string }> {
  const socket = connect((server.address() as AddressInfo).port, "127.0.0.1");
  let said = "";
  socket.on("data", (part) => (said += part.toString()));
  socket.on("error", () => {});
  socket.write(`${lines.join("\r\n")}\r\n\r\n${body}`);
  await Promise.race([
    once(socket, "close"),
    new Promise((done) => setTimeout(done, 1500)),
    (async () => {
      while (!said.includes("\r\n\r\n")) await new Promise((done) => setTimeout(done, 10));
    })(),
  ]);
  socket.destroy();
  return { status: Number(said.split(" ")[1]), head: said.split("\r\n\r\n")[0] };
}
const post = (path: string, ...more: string[]) => [`POST ${path} HTTP/1.1`, "Host: here", ...more];

describe("bodies", () => {
  it("larger than their address takes are refused by their head, before a byte of them is read", async () => {
    read = 0;
    const { status, head } = await raw(post("/sign-in", "Content-Length: 314572800"), "email=");
    expect(status).toBe(413);
    expect(head).toMatch(/connection: close/i);
    expect(read).toBe(0);
  });
  it("that are refused are taken to their end: what the same connection asks next is answered", async () => {
    const socket = connect((server.address() as AddressInfo).port, "127.0.0.1");
    let said = "";
    let ended = false;
    socket.on("data", (part) => (said += part.toString()));
    socket.on("close", () => (ended = true));
    const answers = async (count: number) => {
      while (said.split("HTTP/1.1 ").length - 1 < count && !ended) await new Promise((done) => setTimeout(done, 10));
    };
    // The body comes later than its head, as from a slow line.
    socket.write("DELETE /kept HTTP/1.1\r\nHost: here\r\nContent-Length: 5\r\n\r\n");
    await new Promise((done) => setTimeout(done, 100));
    expect(said).toBe("");
    socket.write("hello");
    await answers(1);
    socket.write("GET /kept HTTP/1.1\r\nHost: here\r\n\r\n");
    await answers(2);
    expect(said).toMatch(/^HTTP\/1.1 405 [^]*HTTP\/1.1 200 /);
    socket.destroy();
  });
  it("that were answered before they were read to their end do not stop what is asked next", async () => {
    const socket = connect((server.address() as AddressInfo).port, "127.0.0.1");
    let said = "";
    socket.on("data", (part) => (said += part.toString()));
    const answers = (count: number) =>
      expect.poll(() => said.split("HTTP/1.1 ").length - 1, { interval: 10 }).toBe(count);
    socket.write(`POST /unread HTTP/1.1\r\nHost: here\r\nContent-Length: 60000\r\n\r\n${"x".repeat(20_000)}`);
    await answers(1);
    // Not in one with what is asked next: that would be read with it.
    for (let part = 0; part < 2; part++) {
      socket.write("x".repeat(20_000));
      await new Promise((done) => setTimeout(done, 50));
    }
    socket.write("GET /kept HTTP/1.1\r\nHost: here\r\n\r\n");
    await answers(2);
    expect(said).toMatch(/^HTTP\/1.1 415 [^]*HTTP\/1.1 200 /);
    socket.destroy();
  });
  it("that never come are not waited for", async () => {
    expect((await raw(["DELETE /kept HTTP/1.1", "Host: here", "Content-Length: 5"])).status).toBe(405);
  });
  it("of a length nobody says are refused (RFC 9110, section 15.5.12)", async () => {
    expect((await raw(post("/sign-in", "Transfer-Encoding: chunked"), "5\r\nhello\r\n0\r\n\r\n")).status).toBe(411);
  });
  it("of usual size pass", async () => {
    expect((await raw(post("/sign-in", "Content-Length: 5"), "hello")).status).toBe(200);
  });
  it.each([
    ["/sign-in", 8 * 1024],
    ["/sign-in.data", 8 * 1024],
    ["/uploads", 128 * 1024 * 1024],
    ["/descent/tin/steps", 1024 * 1024],
    ["/anything/else", 64 * 1024],
    ["/uploads/../sign-in", 64 * 1024],
  ])("%s takes %d bytes", (path, bytes) => expect(bodyLimit(path)).toBe(bytes));
});

describe("requests that are none", () => {
  it.each<[string, string[], number]>([
    ["a host with a path", ["GET / HTTP/1.1", "Host: here/there"], 400],
    ["a host that is no host", ["GET / HTTP/1.1", "Host: ["], 400],
    ["a broken escape", ["GET /descent/%E0%A4%A HTTP/1.1", "Host: here"], 400],
    ["a zero byte", ["GET /descent/%00 HTTP/1.1", "Host: here"], 400],
    ["another method", ["DELETE /kept HTTP/1.1", "Host: here"], 405],
    ["a trace", ["TRACE /kept HTTP/1.1", "Host: here"], 405],
    ["a usual one", ["GET /kept HTTP/1.1", "Host: here"], 200],
  ])("%s", async (_what, lines, status) => expect((await raw(lines)).status).toBe(status));
});

describe("every answer", () => {
  const get = (path: string) => fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`);
  it("tells browsers what they may do, and is kept by nobody unless it says so", async () => {
    const { headers } = await get("/");
    expect(headers.get("content-security-policy")).toMatch(/script-src 'self' 'nonce-[\w+/=]{20,}'/);
    expect(headers.get("x-content-type-options")).toBe("nosniff");
    expect(headers.get("strict-transport-security")).toMatch(/max-age/);
    expect(headers.get("cache-control")).toBe("no-store");
    expect((await get("/kept")).headers.get("cache-control")).toBe("max-age=60");
  });
  it("has another nonce", async () => {
    const nonces = await Promise.all(
      [1, 2, 3].map(async () => (await get("/")).headers.get("content-security-policy")),
    );
    expect(new Set(nonces).size).toBe(3);
  });
  it("that does not come in time is given up with a sentence", async () => {
    const response = await get("/slow");
    expect(response.status).toBe(503);
    expect(await response.text()).toContain("took too long");
  });
});

describe("who asks for too much", () => {
  it("waits, and others do not", async () => {
    const outcomes = await Promise.all(
      Array.from({ length: 2_450 }, () =>
        countRequest("greedy", "here").then(
          () => "counted",
          (error: { code: string }) => error.code,
        ),
      ),
    );
    expect(outcomes.filter((one) => one === "counted")).toHaveLength(2_400);
    expect(new Set(outcomes.slice(2_400))).toEqual(new Set(["too-many"]));
    await expect(countRequest("modest", "here")).resolves.toBeUndefined();
  });
  it("has three expensive answers worked out at once and forty waiting, and none that nobody waits for", async () => {
    let [now, most] = [0, 0];
    const work = async () => {
      most = Math.max(most, ++now);
      await new Promise((done) => setTimeout(done, 5));
      now--;
      return "done";
    };
    const gone = new AbortController();
    const here = new AbortController().signal;
    const asked = Promise.all(
      Array.from({ length: 60 }, () => inTurn("a", here, work).catch((error: { code: string }) => error.code)),
    );
    const left = failureOf(inTurn("b", gone.signal, work));
    gone.abort();
    const outcomes = await asked;
    expect(outcomes.filter((one) => one === "done")).toHaveLength(40);
    expect(outcomes.filter((one) => one === "too-many")).toHaveLength(20);
    expect(most).toBe(3);
    expect((await left).code).toBe("gone");
  });
});
