import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { ensureBuild } from "./desk/build.ts";
import { startMariaDb } from "./desk/mariadb.ts";
import { freePort } from "./desk/ports.ts";
import { CommandFault, runCommand, timed } from "./desk/timing.ts";

interface Count {
  passed: number;
  failed: number;
}

const bin = (name: string) => `node_modules/.bin/${name}`;

/** Runs a check that passes or fails as one; what it said is shown together, once it has ended. */
async function check(what: string, command: string, args: string[]): Promise<Count> {
  const began = performance.now();
  const child = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"] });
  const said: Buffer[] = [];
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (chunk: Buffer) => said.push(chunk));
  const status = await new Promise((done) => child.once("close", done));
  process.stderr.write(`${Buffer.concat(said).toString()}${what}: ${status === 0 ? "passed" : "FAILED"}, ${((performance.now() - began) / 1000).toFixed(1)} s\n`);
  return status === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };
}

/** Types, lint and layers, beside each other: each keeps one processor busy. */
async function staticChecks(): Promise<Count[]> {
  const types = await check("Route types", bin("react-router"), ["typegen"]);
  const others = await Promise.all([
    check("Lint", bin("eslint"), ["."]),
    check("Type check", bin("tsc"), ["--noEmit"]),
    check("Layers", bin("depcruise"), ["--config", ".dependency-cruiser.cjs", "app", "bench", "chart", "commands", "contracts", "core", "demo", "server"]),
  ]);
  return [types, ...others];
}

/** Core and server tests, the latter against a MariaDB of their own. */
async function unitTests(): Promise<Count> {
  rmSync("var/unit", { recursive: true, force: true });
  mkdirSync("var/unit", { recursive: true });
  const database = await timed("Starting MariaDB for the tests", () => startMariaDb("var/unit"));
  try {
    const result = "test-results/unit.json";
    const { status } = spawnSync(bin("vitest"), ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${result}`], {
      stdio: "inherit",
      env: { ...process.env, COMPASS_DATABASE: database.url, COMPASS_VAR: "var/unit", COMPASS_LOG: "silent" },
    });
    const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(result, "utf8")) as Record<string, number>;
    // A file that cannot even be loaded counts no test.
    return { passed: numPassedTests, failed: Math.max(numFailedTests, status === 0 ? 0 : 1) };
  } finally {
    await database.stop();
  }
}

/** The story in a real browser, against the production build and a freshly seeded world. */
async function browserTests(): Promise<Count> {
  rmSync("var/test", { recursive: true, force: true });
  await ensureBuild();
  const port = await freePort(4410);
  const desk = spawn(bin("tsx"), ["commands/demo.ts", "test"], {
    stdio: ["ignore", "pipe", "inherit"],
    env: { ...process.env, COMPASS_PORT: String(port), COMPASS_LOG: "error" },
  });
  try {
    const address = await addressOf(desk);
    const { status } = spawnSync(bin("playwright"), ["test"], { stdio: "inherit", env: { ...process.env, COMPASS_ADDRESS: address } });
    const { stats } = JSON.parse(readFileSync("test-results/e2e.json", "utf8")) as { stats: { expected: number; unexpected: number; flaky: number } };
    return { passed: stats.expected + stats.flaky, failed: Math.max(stats.unexpected, status === 0 ? 0 : 1) };
  } finally {
    const ended = new Promise((done) => desk.once("exit", done));
    desk.kill("SIGTERM");
    await ended;
  }
}

function addressOf(desk: ChildProcess): Promise<string> {
  return new Promise((found, fail) => {
    let text = "";
    desk.stdout?.on("data", (chunk: Buffer) => {
      text += chunk.toString();
      const match = /http:\/\/127\.0\.0\.1:\d+\//.exec(text);
      if (match) found(match[0]);
    });
    desk.once("exit", () => fail(new CommandFault("The desk for the browser tests did not start.")));
  });
}

runCommand(async () => {
  const only = process.argv[2];
  mkdirSync("test-results", { recursive: true });
  const counts: Count[] = [];
  if (!only || only === "static") counts.push(...(await staticChecks()));
  if (!only || only === "unit") counts.push(await unitTests());
  if (!only || only === "browser") counts.push(await browserTests());
  const sum = (key: keyof Count) => counts.reduce((total, count) => total + count[key], 0);
  process.stdout.write(`\n${sum("passed")} passed, ${sum("failed")} failed\n`);
  process.exitCode = sum("failed") === 0 ? 0 : 1;
});
