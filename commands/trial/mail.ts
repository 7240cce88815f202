import { spawn, type ChildProcess } from "node:child_process";
import { closeSync, openSync, readdirSync, readFileSync, readSync, rmSync } from "node:fs";
import { join } from "node:path";
import { createTransport } from "nodemailer";
import { closeDatabase } from "../../server/database/connection.ts";
import { OutboxRow } from "../../server/database/models.ts";
import { fanOut } from "../../server/delivery/fanOut.ts";
import { closePool } from "../../server/pool/pool.ts";
import { claim } from "../../server/outbox/outbox.ts";
import { startMailbox } from "../desk/mailbox.ts";
import { CommandFault } from "../desk/timing.ts";
import { manyReaders, publishOnTrial, startTrialDesk } from "./desk.ts";

const FOLDER = "var/trial-mail";
const WORKERS = 2;
/** A worker lives so long at most before it is killed (ms). */
const LIVES = 15_000;

/**
 * An edition to so many readers, by workers that are killed at random: each is sent it once. Beside it, how long the
 * stand-in for the world's mail takes for as many mails of that size alone.
 */
export async function mailTrial(readers: number): Promise<void> {
  const database = await startTrialDesk(FOLDER);
  const box = join(FOLDER, "mailbox");
  const mailbox = await startMailbox(box);
  process.env.COMPASS_SMTP = mailbox.url;
  await manyReaders(readers);
  const number = await publishOnTrial();
  const queued = await timedly(async () => {
    for (const news of await claim("trial", ["edition", "events"], 10)) await fanOut(news);
  });
  const expected = await OutboxRow.count({ where: { kind: "mail" } });
  if (expected !== readers) throw new CommandFault(`${expected} messages were queued for ${readers} readers.`);
  let kills = 0;
  let first = 0;
  const began = performance.now();
  const workers = Array.from({ length: WORKERS }, () => startWorker());
  // Before the first of them has begun there is nothing to be struck.
  let dies = began + LIVES / 2 + Math.random() * LIVES;
  while ((await OutboxRow.count({ where: { kind: "mail", state: "waiting" } })) > 0) {
    await new Promise((done) => setTimeout(done, 100));
    if (first === 0 && readdirSync(box).length > 0) first = performance.now() - began;
    if (performance.now() < dies) continue;
    dies = performance.now() + Math.random() * LIVES;
    const n = kills++ % WORKERS;
    workers[n].kill("SIGKILL");
    // What it had taken is not waited for: its lease is over at once, as it would be a minute later.
    await OutboxRow.update({ leasedUntil: 0 }, { where: { kind: "mail", state: "waiting" } });
    workers[n] = startWorker();
  }
  const sent = performance.now() - began;
  for (const worker of workers) worker.kill("SIGKILL");
  const names = readdirSync(box).filter((name) => name.endsWith(".eml"));
  const ids = new Set(names.map((name) => messageId(join(box, name))));
  if (ids.size !== readers) throw new CommandFault(`${ids.size} of ${readers} readers were sent edition ${number}.`);
  const alone = await standInAlone(mailbox.url, readFileSync(join(box, names[0])), readers);
  await mailbox.close();
  await closePool();
  await closeDatabase();
  await database.stop();
  rmSync(FOLDER, { recursive: true, force: true });
  process.stdout.write(
    `${readers} readers: queued in ${seconds(queued)}, the first mail after ${seconds(first)}, all after ` +
      `${seconds(sent)} by ${WORKERS} workers under ${kills} kills; ${names.length - ids.size} came twice, by one ` +
      `Message-ID. The stand-in alone takes ${seconds(alone)} for as many: ${(sent / alone).toFixed(2)} x.\n`,
  );
}

const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;

async function timedly(work: () => Promise<void>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

function startWorker(): ChildProcess {
  return spawn(process.execPath, ["--import", "tsx", "commands/trial/mailWorker.ts"], {
    stdio: "ignore",
    env: { ...process.env, COMPASS_LOG: "silent" },
  });
}

/** The head of a mail is at its beginning: the pictures are not read. */
function messageId(file: string): string {
  const [head, descriptor] = [Buffer.alloc(4_096), openSync(file, "r")];
  const length = readSync(descriptor, head);
  closeSync(descriptor);
  return /^Message-ID:\s*(<[^>]+>)/im.exec(head.subarray(0, length).toString("latin1"))?.[1] ?? file;
}

/** The same mail over and over, by as many connections as two workers have. */
async function standInAlone(url: string, raw: Buffer, count: number): Promise<number> {
  const { hostname, port } = new URL(url);
  const transport = createTransport({ host: hostname, port: Number(port), pool: true, maxConnections: 10 });
  const envelope = { from: "desk@compass.example", to: ["reader@meridian.example"] };
  const took = await timedly(async () => {
    for (let from = 0; from < count; from += 100)
      await Promise.all(
        Array.from({ length: Math.min(100, count - from) }, () => transport.sendMail({ envelope, raw })),
      );
  });
  transport.close();
  return took;
}
