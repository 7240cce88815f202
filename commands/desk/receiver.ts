import { randomUUID } from "node:crypto";
import { mkdirSync, renameSync, writeFileSync } from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";

/** Largest message that is taken (bytes). */
const LARGEST = 1_000_000;

export interface Receiver {
  /** host:port */
  host: string;
  close(): Promise<void>;
}

/**
 * A stand-in for readers' programs: takes whatever is posted to it on loopback and keeps it, a file a message. Of
 * addresses, /gone is gone, /away fails, and /elsewhere sends on.
 */
export async function startReceiver(folder: string, port = 0): Promise<Receiver> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const answers: Record<string, number> = { "/gone": 410, "/away": 503, "/elsewhere": 302 };
  const server = createServer((request, response) => {
    const path = request.url ?? "/";
    const parts: Buffer[] = [];
    let length = 0;
    request.on("data", (part: Buffer) => {
      length += part.length;
      if (length > LARGEST) request.destroy();
      else parts.push(part);
    });
    request.on("end", () => {
      const refusal = answers[path];
      if (refusal) return void response.writeHead(refusal, { Location: `${path}/on` }).end();
      const name = `${new Date().toISOString().replace(/[:.]/g, "-")}-${randomUUID()}`;
      const taken = { path, headers: request.headers, body: Buffer.concat(parts).toString("utf8"), at: Date.now() };
      writeFileSync(join(folder, `${name}.part`), JSON.stringify(taken), { mode: 0o600 });
      renameSync(join(folder, `${name}.part`), join(folder, `${name}.json`));
      response.writeHead(204).end();
    });
  });
  await new Promise<void>((ready, fail) => {
    server.once("error", fail);
    server.listen(port, "127.0.0.1", ready);
  });
  const { port: own } = server.address() as AddressInfo;
  return { host: `127.0.0.1:${own}`, close: () => new Promise((done) => server.close(() => done())) };
}
