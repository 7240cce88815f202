import { randomUUID } from "node:crypto";
import { CommandFault } from "../../desk/timing.ts";
import { levelStep, sendSteps } from "./saving.ts";
import { signIn, type Target } from "./target.ts";

/** Within how long somebody must answer, however calmly (ms). */
const CALM = 5_000;

/**
 * Kills web server and database in turn, at random moments under writes, and looks each time whether everything that
 * was said to be stored is there once the desk has come back by itself.
 */
export async function killTarget(target: Target, kills: number, say: (line: string) => void): Promise<void> {
  const cookie = await signIn(target.address, "analyst");
  const stored = new Set<string>();
  let writing = true;
  const statuses = new Map<number, number>();
  const write = async () => {
    while (writing) {
      const id = randomUUID();
      const answer = await sendSteps(target.address, cookie, "lead", [levelStep(id)]);
      if (answer.stored) stored.add(id);
      else await new Promise((done) => setTimeout(done, 100));
      // While something is away people are told so; nobody is shown a fault.
      statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
      if (answer.status === 500)
        throw new CommandFault(
          `A write was answered with 500 while something was away.\n${target.said().slice(-3000)}`,
        );
    }
  };
  const writers = Promise.all(Array.from({ length: 4 }, write));
  let [longest, calmest] = [0, 0];
  for (let n = 0; n < kills; n++) {
    await new Promise((done) => setTimeout(done, 1_000 + Math.random() * 1_500));
    const pid = n % 2 === 0 ? target.databasePid() : target.webPid();
    if (pid > 0) process.kill(pid, "SIGKILL");
    const began = performance.now();
    // Gone first, back then.
    await new Promise((done) => setTimeout(done, 200));
    if (n % 2 === 1) calmest = Math.max(calmest, await firstAnswer(target.address, began));
    while (!(await healthy(target.address))) {
      if (performance.now() - began > 60_000)
        throw new CommandFault(`The desk did not come back within a minute.\n${target.said().slice(-3000)}`);
      await new Promise((done) => setTimeout(done, 50));
    }
    longest = Math.max(longest, performance.now() - began);
  }
  await new Promise((done) => setTimeout(done, 500));
  writing = false;
  await writers;
  const there = await idsOf(target.address, cookie);
  const lost = [...stored].filter((id) => !there.has(id));
  say(
    `${kills} kills, of database and web server in turn: back after ${(longest / 1000).toFixed(1)} s at ` +
      `most, somebody answers calmly after ${(calmest / 1000).toFixed(1)} s at ` +
      (`most; ${stored.size} marks were said to be stored, ${lost.length} of them lost; answers: ` +
        `${[...statuses].map(([status, times]) => `${times} x ${status}`).join(", ")}`),
  );
  if (lost.length > 0) throw new CommandFault(`${lost.length} marks that were said to be stored are gone.`);
  if (stored.size === 0) throw new CommandFault("Nothing was stored at all.");
}

/** How long nobody answered at all after the web server was killed (ms). */
async function firstAnswer(address: string, began: number): Promise<number> {
  for (;;) {
    const status = await fetch(address, { signal: AbortSignal.timeout(2_000), redirect: "manual" }).then(
      (answer) => answer.status,
      () => 0,
    );
    if (status > 0) return performance.now() - began;
    if (performance.now() - began > CALM)
      throw new CommandFault(`Nobody answered within ${CALM / 1000} s of the end of the web server.`);
    await new Promise((done) => setTimeout(done, 20));
  }
}

async function healthy(address: string): Promise<boolean> {
  return fetch(new URL("/healthz", address), { signal: AbortSignal.timeout(2_000) }).then(
    (response) => response.ok,
    () => false,
  );
}

async function idsOf(address: string, cookie: string): Promise<Set<string>> {
  const response = await fetch(new URL("/descent/lead/desk", address), { headers: { Cookie: cookie } });
  const { marks } = (await response.json()) as { marks: { id: string }[] };
  return new Set(marks.map(({ id }) => id));
}
