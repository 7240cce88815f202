import { spawn, type ChildProcess } from "node:child_process";
import { calmOn, type Calm } from "./calm.ts";
import { CommandFault } from "./timing.ts";

export interface Kept {
  close(): Promise<void>;
}

/** A process that ended so many times within a minute will end the next time, too. */
const OFTEN = 20;

/** Keeps the web server running: one that ends, whatever ended it, is started again and that is said. */
export async function keepWeb(died: (why: string) => void): Promise<Kept> {
  let closing = false;
  const calm = calmOn(Number(process.env.COMPASS_PORT));
  let child = await startWeb(calm);
  let ends: number[] = [];
  const watch = (one: ChildProcess) =>
    one.once("exit", (code, signal) => void again(`The web server ended (${signal ?? `status ${code}`})`));
  const again = async (why: string): Promise<void> => {
    if (closing) return;
    calm.begin();
    const now = Date.now();
    ends = [...ends.filter((end) => end > now - 60_000), now];
    died(`${why}; starting it again`);
    if (ends.length > OFTEN) await new Promise((done) => setTimeout(done, 5_000));
    try {
      const next = await startWeb(calm);
      if (closing) return void next.kill("SIGTERM");
      child = next;
      watch(child);
    } catch (error) {
      setTimeout(() => void again(String(error)), 1_000);
    }
  };
  watch(child);
  return {
    close: () => {
      closing = true;
      return calm.end().then(() => ended(child));
    },
  };
}

/** Resolves once the server listens; whoever answered in its place until then gives it the port. */
function startWeb(calm: Calm): Promise<ChildProcess> {
  const child = spawn(process.execPath, ["--import", "tsx", "commands/desk/web.ts"], {
    stdio: ["ignore", "inherit", "inherit", "ipc"],
    env: { ...process.env, NODE_ENV: "production" },
  });
  return new Promise((ready, fail) => {
    child.on("message", (said) => {
      if (said === "ready") ready(child);
      else void calm.end().then(() => child.send("yours"));
    });
    child.once("exit", (code, signal) =>
      fail(new CommandFault(`The web server could not be started (${signal ?? `status ${code}`}).`)),
    );
  });
}

/** Asks a process to end, and makes it end when it does not within ten seconds. */
function ended(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((done) => {
    const force = setTimeout(() => child.kill("SIGKILL"), 10_000);
    child.once("exit", () => {
      clearTimeout(force);
      done();
    });
    child.kill("SIGTERM");
  });
}
