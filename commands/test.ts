import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { mkdirSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { EVERY_MARKET_READ } from "../demo/said.ts";
import { ensureBuild } from "./desk/build.ts";
import { startMariaDb } from "./desk/mariadb.ts";
import { freePort } from "./desk/ports.ts";
import { CommandFault, runCommand, timed } from "./desk/timing.ts";
import { countPlaywright, countVitest, type Count } from "./tests/whatFailed.ts";

const bin = (name: string) => `node_modules/.bin/${name}`;

/** Runs a check that passes or fails as one; what it said is shown together, once it has ended. */
async function check(what: string, command: string, args: string[], env: Record<string, string> = {}): Promise<Count> {
  const began = performance.now();
  const child = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"], env: { ...process.env, ...env } });
  const said: Buffer[] = [];
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (chunk: Buffer) => said.push(chunk));
  const status = await new Promise((done) => child.once("close", done));
  process.stderr.write(
    `${Buffer.concat(said).toString()}${what}: ${status === 0 ? "passed" : "FAILED"}, ` +
      `${((performance.now() - began) / 1000).toFixed(1)} s\n`,
  );
  if (status === 0) return { passed: 1, failed: 0, told: [] };
  return { passed: 0, failed: 1, told: [`FAILED ${what}\n${Buffer.concat(said).toString().slice(-2_000)}`] };
}

/** Types, lint, format and layers, one after the other: each keeps a processor busy. */
async function staticChecks(): Promise<Count[]> {
  const layers = ["app", "bench", "chart", "commands", "contracts", "core", "demo", "server"];
  return [
    await check("Route types", bin("react-router"), ["typegen"]),
    await check("Type check", bin("tsc"), ["--noEmit"]),
    await check("Lint", bin("eslint"), ["."]),
    await check("Format", bin("prettier"), ["--check", "--log-level", "warn", "."]),
    await check("Layers", bin("depcruise"), ["--config", ".dependency-cruiser.cjs", ...layers]),
  ];
}

/** Every bench and every trial in small: what they print says nothing then, but they run. */
function smallRuns(what: string, ...runs: string[]): Promise<Count> {
  return check(what, "sh", ["-c", runs.map((run) => `${bin("tsx")} commands/${run}`).join(" && ")], {
    COMPASS_SHORT: "yes",
  });
}

/**
 * A desk attacked for half a minute: the long trial, in small. How long others wait is judged by the long one alone.
 */
function hostileCheck(): Promise<Count> {
  return check("Hostile requests", bin("tsx"), ["commands/trial.ts", "hostile", "short"]);
}

/** What is attacked or computes, in small. */
async function computingTrials(): Promise<Count[]> {
  await ensureBuild();
  return [
    await smallRuns("Benches in small", "bench.ts core found patterns grown scenarios waves truth import chart"),
    await hostileCheck(),
  ];
}

/** What stores, sends and waits, in small. */
async function storingTrials(): Promise<Count[]> {
  await ensureBuild();
  return [
    await smallRuns(
      "Stores and trials in small",
      "bench.ts store",
      "trial.ts 2",
      "bench.ts publish",
      "trial.ts publish",
      "trial.ts mail",
      "trial.ts readers",
      "trial.ts alerts",
      "trial.ts watch",
      "trial.ts evaluators",
    ),
  ];
}

/** Tests of what is computed alone. */
const computedTests = () => vitest("computed", {});

/** Tests of what is stored, against a MariaDB of their own. */
async function storedTests(): Promise<Count> {
  rmSync("var/unit", { recursive: true, force: true });
  mkdirSync("var/unit", { recursive: true });
  const database = await timed("Starting MariaDB for the tests", () => startMariaDb("var/unit"));
  try {
    return await vitest("stored", { COMPASS_DATABASE: database.url, COMPASS_VAR: "var/unit" });
  } finally {
    await database.stop();
  }
}

async function vitest(project: string, env: Record<string, string>): Promise<Count> {
  const result = `test-results/${project}.json`;
  const runner = spawn(
    bin("vitest"),
    ["run", "--project", project, "--reporter=default", "--reporter=json", `--outputFile.json=${result}`],
    { stdio: "inherit", env: { ...process.env, COMPASS_LOG: "silent", ...env } },
  );
  return countVitest(await reportOf(runner, result), runner.exitCode ?? 1);
}

/**
 * Parts of the browser tests that take about the same time; the market clock is moved by the last files of a part only
 * (they are run in the order of their names).
 * They are more than there are processors: a browser waits for its page half of the time.
 */
const PARTS = [
  ["account", "chart", "charts", "deskDay", "everyAddress", "import", "library", "scenarios"],
  ["counts", "editions", "finding", "machine", "readers", "roles", "round", "studies"],
  [
    "marks",
    "measuring",
    "notices",
    "passkey",
    "patterns",
    "spoken",
    "story",
    "watch-counts",
    "watch",
    "ways",
    "writersAndReaders",
  ],
];

/**
 * The browser tests, against the production build: each part on a fresh world of its own, beside the others.
 */
async function browserTests(): Promise<Count[]> {
  checkParts();
  await ensureBuild();
  const desks: ChildProcess[] = [];
  try {
    const addresses = await Promise.all([...PARTS.keys()].map((number) => startDesk(number, desks)));
    return await Promise.all(PARTS.map((files, i) => part(`test-${i + 1}`, files, addresses[i])));
  } finally {
    await Promise.all(desks.map(ended));
  }
}

function checkParts(): void {
  const left = readdirSync("e2e").filter(
    (file) => file.endsWith(".spec.ts") && !PARTS.flat().includes(file.replace(".spec.ts", "")),
  );
  if (left.length > 0) throw new CommandFault(`${left.join(", ")} is in none of the parts of the browser tests.`);
}

/** One world, made once and copied for each part, its database at rest. */
async function seedWorlds(): Promise<void> {
  await ensureBuild();
  for (const number of PARTS.keys()) rmSync(`var/test-${number + 1}`, { recursive: true, force: true });
  const desks: ChildProcess[] = [];
  try {
    await startDesk(0, desks);
    await said(desks[0], EVERY_MARKET_READ);
  } finally {
    await Promise.all(desks.map(ended));
  }
  // Owners and rights go with the files: the database may run as its own user.
  for (const number of [...PARTS.keys()].slice(1)) execFileSync("cp", ["-a", "var/test-1", `var/test-${number + 1}`]);
}

/** On ports of its own: two that start together would find the same ones free at one moment. */
async function startDesk(number: number, desks: ChildProcess[]): Promise<string> {
  const name = `test-${number + 1}`;
  const ports = {
    COMPASS_PORT: String(await freePort(4410 + 100 * number)),
    COMPASS_DATABASE_PORT: String(13_306 + 100 * (number + 1)),
  };
  const child = spawn(bin("tsx"), ["commands/demo.ts", name], {
    stdio: ["ignore", "pipe", "inherit"],
    env: { ...process.env, ...ports, COMPASS_LOG: "error" },
  });
  desks.push(child);
  return addressOf(child);
}

async function ended(child: ChildProcess): Promise<void> {
  const end = new Promise((done) => child.once("exit", done));
  child.kill("SIGTERM");
  await end;
}

async function part(name: string, files: readonly string[], address: string): Promise<Count> {
  const result = `test-results/${name}.json`;
  const runner = spawn(
    bin("playwright"),
    ["test", "--output", `test-results/${name}`, ...files.map((file) => `e2e/${file}.spec.ts`)],
    {
      stdio: "inherit",
      env: { ...process.env, COMPASS_ADDRESS: address, PLAYWRIGHT_JSON_OUTPUT_FILE: result },
    },
  );
  return countPlaywright(await reportOf(runner, result), runner.exitCode ?? 1);
}

/** What a runner has written, once it has ended. */
async function reportOf<Report>(runner: ChildProcess, file: string): Promise<Report> {
  await new Promise((done) => runner.once("close", done));
  return JSON.parse(readFileSync(file, "utf8")) as Report;
}

const addressOf = (desk: ChildProcess) => said(desk, /http:\/\/127\.0\.0\.1:\d+\//);

/** Waits until a desk has said something. */
function said(desk: ChildProcess, what: RegExp | string): Promise<string> {
  return new Promise((found, fail) => {
    let text = "";
    desk.stdout?.on("data", (chunk: Buffer) => {
      text += chunk.toString();
      const [match] = text.match(what) ?? [];
      if (match) found(match);
    });
    desk.once("exit", () => fail(new CommandFault("The desk for the browser tests did not start.")));
  });
}

runCommand(async () => {
  const only = process.argv[2];
  mkdirSync("test-results", { recursive: true });
  const counts: Count[] = [];
  const wants = (part: string) => !only || only === part;
  // Two lanes for two processors: what computes, and what waits for a disk or for itself; browsers keep both busy.
  const computing = async () => [
    ...(wants("static") ? await staticChecks() : []),
    ...(wants("unit") ? [await computedTests()] : []),
    ...(wants("hostile") ? await computingTrials() : []),
  ];
  const storing = async () => {
    const stored = wants("unit") ? [await storedTests()] : [];
    if (wants("browser")) await seedWorlds();
    return [...stored, ...(wants("hostile") ? await storingTrials() : [])];
  };
  counts.push(...(await Promise.all([computing(), storing()])).flat());
  if (wants("browser")) counts.push(...(await browserTests()));
  const sum = (key: "passed" | "failed") => counts.reduce((total, count) => total + count[key], 0);
  // Last, so that whoever sees the end alone sees what it was.
  for (const line of counts.flatMap(({ told }) => told)) process.stdout.write(`\n${line}\n`);
  process.stdout.write(`\n${sum("passed")} passed, ${sum("failed")} failed\n`);
  process.exitCode = sum("failed") === 0 ? 0 : 1;
});
