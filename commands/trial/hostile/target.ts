import { fork, spawn, type ChildProcess } from "node:child_process";
import { existsSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { freePort } from "../../desk/ports.ts";
import { CommandFault } from "../../desk/timing.ts";
import { PASSWORD, WHO, type Who } from "./world.ts";

/** Its own, and its own port: other trials may run beside it. */
const FOLDER = "var/trial-hostile";
const DATABASE_PORT = "14306";

/** The desk under attack, seen from outside: its address, what it said, its processes. */
export interface Target {
  address: string;
  /** What the desk and its log wrote while it was attacked. */
  said(): string;
  /** How often something of it had to be started again. */
  restarts(): number;
  webPid(): number;
  databasePid(): number;
  stop(): Promise<void>;
}

export async function startTarget(): Promise<Target> {
  rmSync(FOLDER, { recursive: true, force: true });
  const port = await freePort(4510);
  const child = spawn("node_modules/.bin/tsx", ["commands/trial/hostile/desk.ts"], {
    stdio: ["ignore", "pipe", "pipe"],
    env: { ...process.env, COMPASS_PORT: String(port), COMPASS_DATABASE_PORT: DATABASE_PORT, COMPASS_LOG: "error" },
  });
  let said = "";
  child.stderr.on("data", (part: Buffer) => (said = (said + part.toString()).slice(-2_000_000)));
  const address = await new Promise<string>((found, fail) => {
    let text = "";
    child.stdout.on("data", (part: Buffer) => {
      text += part.toString();
      // The web server writes its log to the same stream.
      said = (said + part.toString()).slice(-2_000_000);
      const match = /http:\/\/127\.0\.0\.1:\d+\//.exec(text);
      if (match) found(match[0]);
    });
    child.once("exit", () => fail(new CommandFault(`The desk for the trial did not start.\n${said}`)));
  });
  return {
    address,
    said: () => said,
    restarts: () => said.split("starting it again").length - 1,
    webPid: () => childOf(child.pid ?? 0, "commands/desk/web.ts"),
    databasePid: () =>
      existsSync(`${FOLDER}/mariadb/server.pid`) ? Number(readFileSync(`${FOLDER}/mariadb/server.pid`, "utf8")) : 0,
    stop: () => ended(child),
  };
}

/** The process of a command under another one, however deep; 0 when there is none. */
function childOf(root: number, command: string): number {
  const parents = new Map<number, number>();
  const commands = new Map<number, string>();
  for (const name of readdirSync("/proc")) {
    if (!/^\d+$/.test(name)) continue;
    try {
      parents.set(Number(name), Number(readFileSync(`/proc/${name}/stat`, "utf8").split(") ")[1].split(" ")[1]));
      commands.set(Number(name), readFileSync(`/proc/${name}/cmdline`, "utf8"));
    } catch {
      // It ended meanwhile.
    }
  }
  const under = (pid: number): boolean =>
    pid === root || (parents.has(pid) && parents.get(pid) !== 0 && under(parents.get(pid) ?? 0));
  return [...commands].find(([pid, line]) => line.includes(command) && under(pid))?.[0] ?? 0;
}

/** Memory of a process that is in use, in MB; 0 when it is gone. */
export function memoryOf(pid: number): number {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0) / 1024;
  } catch {
    return 0;
  }
}

function ended(child: ChildProcess): Promise<void> {
  return new Promise((done) => {
    child.once("exit", () => done());
    child.kill("SIGTERM");
  });
}

/** Signs in by the form; the cookies of the answer, as a browser would send them. */
export async function signIn(address: string, who: Who | { email: string }): Promise<string> {
  const email = typeof who === "string" ? WHO[who] : who.email;
  const response = await fetch(new URL("/sign-in", address), {
    method: "POST",
    headers: { Origin: new URL(address).origin, "Content-Type": "application/x-www-form-urlencoded" },
    body: new URLSearchParams({ email, password: PASSWORD }),
    redirect: "manual",
  });
  const cookies = response.headers.getSetCookie().map((cookie) => cookie.split(";")[0]);
  if (response.status !== 302 || cookies.length === 0)
    throw new CommandFault(`${email} could not sign in: ${response.status}.`);
  return cookies.join("; ");
}

export interface Health {
  asked: number;
  slowest: number;
  failed: number;
  memory: number;
}

/** Looks at the desk's health and memory every tenth of a second. */
export class HealthWatch {
  private readonly asker: ChildProcess;
  private sum: Health = { asked: 0, slowest: 0, failed: 0, memory: 0 };
  private part = 0;

  constructor(target: Target) {
    this.asker = fork("commands/trial/hostile/healthAsker.ts", [target.address], { execArgv: ["--import", "tsx"] });
    const pid = target.webPid();
    this.asker.on("message", (message) => {
      const { ok, took } = message as { ok: boolean; took: number };
      const { asked, slowest, failed, memory } = this.sum;
      this.sum = {
        asked: asked + 1,
        slowest: Math.max(slowest, took),
        failed: failed + (ok ? 0 : 1),
        memory: Math.max(memory, memoryOf(pid)),
      };
      this.part = Math.max(this.part, took);
    });
  }

  /** The slowest answer since this was last asked (ms). */
  lately(): number {
    const { part } = this;
    this.part = 0;
    return part;
  }

  stop(): Health {
    this.asker.kill();
    return this.sum;
  }
}
