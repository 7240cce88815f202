import { rmSync } from "node:fs";
import { KIND_NAMES } from "#core/edition/blocks";
import autocannon, { type Result } from "autocannon";
import { findPlan, putOnPlan, savePlan } from "../../server/accounts/plans.ts";
import { beginSession } from "../../server/accounts/sessions.ts";
import { closeDatabase } from "../../server/database/connection.ts";
import { Session } from "../../server/database/models.ts";
import { closePool } from "../../server/pool/pool.ts";
import { ask } from "../../server/readers/questions.ts";
import { ensureBuild } from "../desk/build.ts";
import { freePort } from "../desk/ports.ts";
import { keepWeb } from "../desk/supervise.ts";
import { CommandFault } from "../desk/timing.ts";
import { manyReaders, publishOnTrial, startTrialDesk } from "./desk.ts";
import { TRIAL_MARKET } from "./shape.ts";

const FOLDER = "var/trial-readers";
/** Each reads as a person does: what one account may ask for in a while is limited. */
const READERS = 400;
const CONNECTIONS = 40;
/** How long it is asked for pages before that is measured (s). */
const WARM = 5;
/** As every browser asks. */
const COMPRESSED = { "accept-encoding": "gzip, br" };

interface Load {
  seconds: number;
  /** Pages asked for in a second, of all readers together. */
  rate: number;
}

/**
 * Many readers at once on one desk: front page, an outlook, a market's page and the archive in turn, against a static
 * file of the same server at the same rate. What does not answer with a page is a fault.
 */
export async function readersTrial({ seconds, rate }: Load): Promise<void> {
  const database = await startTrialDesk(FOLDER);
  const number = await publishOnTrial();
  const readers = await manyReaders(READERS);
  const cookies = await Promise.all(readers.map(cookieOf));
  await ensureBuild();
  const port = await freePort(4_800);
  Object.assign(process.env, { COMPASS_PORT: String(port), COMPASS_ROLE: "web", COMPASS_LOG: "error" });
  const web = await keepWeb((why) => process.stderr.write(`${why}\n`));
  try {
    const url = `http://127.0.0.1:${port}`;
    const pages = ["/outlooks", `/outlooks/${number}`, `/markets/${TRIAL_MARKET}`, "/archive"];
    const asked = cookies.map((cookie, i) => ({ path: pages[i % pages.length], headers: { cookie, ...COMPRESSED } }));
    const load = { url, connections: CONNECTIONS, duration: seconds, overallRate: rate };
    const file = await autocannon({ ...load, requests: [{ path: "/favicon.svg", headers: COMPRESSED }] });
    // A desk has been up for a while before it publishes.
    await autocannon({ ...load, duration: Math.min(WARM, seconds), requests: asked });
    // They were last here yesterday evening: that each comes back is written down as well.
    await Session.update({ seenAt: Date.now() - 6 * 3_600_000 }, { where: {} });
    const read = await autocannon({ ...load, requests: asked });
    const bytes = await Promise.all(pages.map((path, i) => sizeOf(url + path, cookies[i])));
    const told = (what: string, of: Result) => `${what} ${perSecond(of)} a second, 97.5 % within ${slow(of)} ms`;
    process.stdout.write(
      `${rate} readers a second for ${seconds} s: ${told("answered were", read)}; ${told("a static file", file)}: ` +
        `${(slow(read) / slow(file)).toFixed(1)} x. ${read.errors + read.timeouts} errors, ${read.non2xx} other ` +
        `answers. Pages are ${bytes.map((size) => `${(size / 1000).toFixed(0)} kB`).join(", ")} as sent.\n`,
    );
    await eachTheirOwn(`${url}/outlooks/${number}`, String(number), readers, cookies);
    if (read.errors + read.timeouts + read.non2xx > 0) throw new CommandFault("Not every reader was answered.");
  } finally {
    await web.close();
    await closePool();
    await closeDatabase();
    await database.stop();
    rmSync(FOLDER, { recursive: true, force: true });
  }
}

/**
 * What a reader asked is on that reader's page alone, and whose plan shows less is shown less from the next page on,
 * though the page was just sent to all the others.
 */
async function eachTheirOwn(address: string, number: string, readers: string[], cookies: string[]): Promise<void> {
  const pageOf = async (i: number) => (await fetch(address, { headers: { cookie: cookies[i] } })).text();
  const words = "Is the low of March meant?";
  const person = { id: readers[0], name: "Reader 0", role: "subscriber" as const };
  await ask(number, { stance: "question", about: "", words }, person);
  const member = { ...(await findPlan("member")), name: "Words alone", kinds: [...KIND_NAMES] };
  const less = await savePlan(undefined, { ...member, parts: ["words"] });
  await putOnPlan(readers[1], less.id);
  // What another process wrote is shown after a second or two.
  await new Promise((done) => setTimeout(done, 2_500));
  await pageOf(2);
  const [own, fewer, usual] = [await pageOf(0), await pageOf(1), await pageOf(3)];
  const isRight =
    own.includes(words) &&
    !usual.includes(words) &&
    !fewer.includes(words) &&
    usual.includes("Entry") &&
    !fewer.includes("Entry");
  if (!isRight) throw new CommandFault("Somebody was shown what is for another.");
}

/** The cookie of a session, as a browser would have it from the sign-in. */
async function cookieOf(accountId: string): Promise<string> {
  const token = await beginSession(accountId, "trial");
  return `compass_session=${encodeURIComponent(Buffer.from(JSON.stringify(token)).toString("base64"))}`;
}

const perSecond = ({ requests }: Result) => requests.average.toFixed(0);
/** Of answers that had to wait for others as well: the time from when a reader would have asked. */
const slow = ({ latency }: Result) => latency.p97_5;

/** Bytes of a page as they are sent, compressed, without its pictures, scripts and styles in files. */
async function sizeOf(url: string, cookie: string): Promise<number> {
  const { body } = await new Promise<{ body: number }>((done, fail) => {
    autocannon({ url, amount: 1, connections: 1, headers: { cookie, ...COMPRESSED } }, (error, result) =>
      error ? fail(error as Error) : done({ body: result.throughput.total }),
    );
  });
  return body;
}
