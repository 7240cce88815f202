import { randomUUID } from "node:crypto";
import { mkdirSync, renameSync, writeFileSync } from "node:fs";
import { createServer, type IncomingMessage } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { pushDevice, vapidClaims, type PushDevice } from "./pushDevice.ts";

/** Largest message that is taken (bytes). */
const LARGEST = 1_000_000;

export interface Receiver {
  /** host:port */
  host: string;
  /** How the stand-in of a browser is notified. */
  browser: ReturnType<PushDevice["subscription"]>;
  close(): Promise<void>;
}

/** Where messages for the stand-in of a browser are taken. */
const DEVICE = "/device";

/**
 * A stand-in for readers' programs, and for a browser with its push service: takes whatever is posted to it on loopback
 * and keeps it, a file a message. Of addresses, /gone is gone, /away fails, and /elsewhere sends on. What the
 * browser is notified of is kept as the browser reads it.
 */
export async function startReceiver(folder: string, port = 0): Promise<Receiver> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  /** What a browser reads; `undefined` of what its service would not take. */
  const notice = ({ headers }: IncomingMessage, body: Buffer): string | undefined => {
    try {
      vapidClaims(headers.authorization ?? "", `http://${headers.host}`);
      return device.open(body);
    } catch {
      return undefined;
    }
  };
  const answers: Record<string, number> = { "/gone": 410, "/away": 503, "/elsewhere": 302 };
  const device = pushDevice();
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
      const body = path.startsWith(DEVICE)
        ? notice(request, Buffer.concat(parts))
        : Buffer.concat(parts).toString("utf8");
      if (body === undefined) return void response.writeHead(403).end();
      const name = `${new Date().toISOString().replace(/[:.]/g, "-")}-${randomUUID()}`;
      const taken = { path, headers: request.headers, body, at: Date.now() };
      writeFileSync(join(folder, `${name}.part`), JSON.stringify(taken), { mode: 0o600 });
      renameSync(join(folder, `${name}.part`), join(folder, `${name}.json`));
      response.writeHead(path.startsWith(DEVICE) ? 201 : 204).end();
    });
  });
  await new Promise<void>((ready, fail) => {
    server.once("error", fail);
    server.listen(port, "127.0.0.1", ready);
  });
  const { port: own } = server.address() as AddressInfo;
  const host = `127.0.0.1:${own}`;
  return {
    host,
    browser: device.subscription(`http://${host}${DEVICE}`),
    close: () => new Promise((done) => server.close(() => done())),
  };
}
