import { Agent, request } from "node:http";
import { CommandFault } from "../../desk/timing.ts";
import { borderTrial } from "./border.ts";
import { killTarget } from "./killing.ts";
import { runNamed, type Attacker } from "./named.ts";
import { wildRequests, type Wild } from "./requests.ts";
import { saveAtOnce } from "./saving.ts";
import { HealthWatch, memoryOf, signIn, startTarget, type Target } from "./target.ts";

/** How long a health question may go unanswered, and what the web server may need, at the worst moment. */
const HEALTHY = 1_000;
const ROOM = 3_000;
const AT_ONCE = 12;

const say = (line: string) => process.stdout.write(`${line}\n`);

/** How much is tried, and whether what took too long is a fault: not where the machine has other work. */
interface Extent {
  wild: number;
  kills: number;
  rounds: number;
  timed: boolean;
}

/**
 * Attacks a desk on this machine in every way that once was successful, and with so many requests that may be anything;
 * saves with fifty analysts at once; kills its processes under writes. Ends with a fault when it was brought down,
 * bent, made to answer with 500, or to leave somebody waiting.
 */
export async function hostileTrial({ wild, kills, rounds, timed }: Extent): Promise<void> {
  if (timed) await borderTrial(say);
  const target = await startTarget();
  let watch: HealthWatch | undefined;
  try {
    const at: Attacker = {
      address: target.address,
      analyst: await signIn(target.address, "analyst"),
      subscriber: await signIn(target.address, "subscriber"),
    };
    const before = memoryOf(target.webPid());
    watch = new HealthWatch(target);
    const web = target.webPid();
    await runNamed(at, watch, say).catch((error: unknown) => {
      throw error instanceof CommandFault ? new CommandFault(`${error.message}\n${target.said().slice(-4000)}`) : error;
    });
    const saved = await saveAtOnce(target, rounds);
    say(
      `50 analysts saving ${rounds} times each at once: median ${saved.median.toFixed(0)} ms, p95 ` +
        `${saved.p95.toFixed(0)} ms, longest ${saved.longest.toFixed(0)} ms, ${saved.refused} refused`,
    );
    await runWild(at, target, wild);
    const health = watch.stop();
    say(
      `health asked ${health.asked} times: slowest ${health.slowest.toFixed(0)} ms, ${health.failed} ` +
        `failed; memory of the web server ${before.toFixed(0)} MB before, ${health.memory.toFixed(0)} MB at most`,
    );
    say(`started again ${target.restarts()} times`);
    if (target.restarts() > 0 || target.webPid() !== web)
      throw new CommandFault(`The desk was brought down.\n${target.said().slice(-2000)}`);
    if (health.failed > 0 || (timed && health.slowest > HEALTHY))
      throw new CommandFault(`Health was not told within ${HEALTHY} ms.`);
    if (health.memory > ROOM) throw new CommandFault(`The web server needed more than ${ROOM} MB.`);
    if (saved.refused > 0) throw new CommandFault("Somebody who saved was refused.");
    await killTarget(target, kills, say);
  } finally {
    watch?.stop();
    await target.stop();
  }
}

async function runWild(at: Attacker, target: Target, count: number): Promise<void> {
  const began = performance.now();
  const statuses = new Map<number | string, number>();
  const bad: string[] = [];
  const requests = wildRequests("hostile");
  let asked = 0;
  const cookies = {
    analyst: at.analyst,
    owner: await signIn(at.address, "owner"),
    subscriber: at.subscriber,
    nobody: "",
  };
  const who = Object.keys(cookies) as (keyof typeof cookies)[];
  const ask = async (): Promise<void> => {
    while (asked < count) {
      const n = asked++;
      const wild = requests.next().value as Wild;
      const as = n % 8 < 5 ? "analyst" : who[n % 4];
      const status = await send(at.address, wild, cookies[as]);
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      if (status === 500 || typeof status === "string")
        bad.push(
          `${status} ${as} ${wild.method} ${wild.path} ${wild.type ?? ""} ${String(wild.body ?? "").slice(0, 300)}`,
        );
      // Rates are told apart from what is tried here: who asks for too much waits.
      if (status === 429) await new Promise((done) => setTimeout(done, 500));
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, ask));
  const seconds = (performance.now() - began) / 1000;
  say(
    `${count} requests that may be anything in ${seconds.toFixed(0)} s: ${[...statuses]
      .sort(([a], [b]) => Number(a) - Number(b))
      .map(([status, times]) => `${times} x ${status}`)
      .join(", ")}`,
  );
  if (bad.length > 0)
    throw new CommandFault(
      `${bad.length} were answered with 500, or not at ` +
        `all:\n${bad.slice(0, 20).join("\n")}\n${target.said().slice(-4000)}`,
    );
}

/** Connections that are kept between requests, as browsers and proxies do: one that is closed too early shows. */
const kept = new Agent({ keepAlive: true, maxSockets: AT_ONCE });

/** The status; what went wrong with the connection where there is none. */
function send(address: string, { method, path, type, body }: Wild, cookie: string): Promise<number | string> {
  return new Promise((done) => {
    const asked = request(new URL(path, address), {
      method,
      agent: kept,
      headers: {
        ...(cookie ? { Cookie: cookie } : {}),
        Origin: new URL(address).origin,
        ...(type ? { "Content-Type": type } : {}),
        ...(body === undefined ? {} : { "Content-Length": Buffer.byteLength(body) }),
      },
      signal: AbortSignal.timeout(40_000),
    });
    asked.on("error", (error: NodeJS.ErrnoException) => done(error.code ?? String(error)));
    asked.on("response", (response) => {
      // A stream has no end of its own.
      if (response.headers["content-type"]?.startsWith("text/event-stream")) {
        done(response.statusCode ?? "no status");
        return void asked.destroy();
      }
      response.on("end", () => done(response.statusCode ?? "no status"));
      response.resume();
    });
    asked.end(body);
  });
}
