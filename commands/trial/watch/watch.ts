import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { randomUUID } from "node:crypto";
import { plainDraft } from "#core/edition/blocks";
import { writtenOf } from "#core/written/former";
import { closedBars } from "#core/observe/closedBars";
import { asInstant, EVER } from "#core/observe/instant";
import { Tape } from "#core/observe/tape";
import { watch } from "#core/observe/watcher";
import { asFollowUp, type FollowUp } from "#core/scenarios/events";
import { scenarioWatcher } from "#core/scenarios/run";
import type { Scenario } from "#core/scenarios/scenario";
import { termsOf } from "#core/scenarios/terms";
import type { Layer } from "#core/series/layers";
import { concat, fromBars } from "#core/series/series";
import { ALL_HOURS } from "#core/time/calendar";
import { seeded } from "#demo/random";
import { sized } from "../../../bench/size.ts";
import { createAccount } from "../../../server/accounts/accounts.ts";
import { setAlert } from "../../../server/alerts/alerts.ts";
import { appendBars } from "../../../server/bars/chunks.ts";
import { readTimeframe } from "../../../server/bars/timeframes.ts";
import { closeDatabase, openDatabase, transact } from "../../../server/database/connection.ts";
import { migrator } from "../../../server/database/migrate.ts";
import { ClockRow, FiringRow, FollowUpRow, Market } from "../../../server/database/models.ts";
import { saveScenario } from "../../../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../../../server/publishing/drafts.ts";
import { publish } from "../../../server/publishing/publish.ts";
import { closePool } from "../../../server/pool/pool.ts";
import { openRecord } from "../../../server/record/adopt.ts";
import { startMariaDb } from "../../desk/mariadb.ts";
import { CommandFault } from "../../desk/timing.ts";
import { arrivals, BASES, calendar, MARKET, MINUTE, START } from "./arrivals.ts";

const FOLDER = "var/trial";
const SCENARIOS = sized(30, 4);

/** Random scenarios about where price is, on rungs of all lengths. */
function scenarios(): Scenario[] {
  const random = seeded("scenarios of the trial");
  const about = (spread: number) => Math.round((100 + spread * random.normal()) * 100) / 100;
  return Array.from({ length: SCENARIOS }, (_, n): Scenario => {
    const long = random.next() < 0.5;
    const sign = long ? 1 : -1;
    const [price, risk] = [about(1), 0.5 + random.next()];
    const cents = (value: number) => Math.round(value * 100) / 100;
    const rung = ["PT1M", "PT15M", "PT1H", "PT4H", "P1D"][Math.floor(random.next() * 5)];
    return {
      id: randomUUID(),
      title: `Scenario ${n}`,
      premise: "",
      direction: long ? "long" : "short",
      trigger: { event: long ? "closeAbove" : "closeBelow", price, timeframe: rung },
      entry: { order: random.next() < 0.5 ? "market" : "limit", price },
      stop: cents(price - sign * risk),
      targets: [
        { price: cents(price + sign * risk), share: 0.5 },
        { price: cents(price + sign * 2.5 * risk), share: 0.5 },
      ],
      invalidation: cents(price - sign * 4 * risk),
      expiry: START + 1000 * 1440 * MINUTE,
    };
  });
}

/** What ought to be told, worked out at once from the order in which the pieces arrive. */
function expected(all: readonly Scenario[]): { spans: number[][]; events: Map<string, FollowUp[]> } {
  const held = new Map<string, Layer>([["PT1M", { base: readTimeframe("PT1M"), series: before() }]]);
  const facts = { since: asInstant(START), tick: 0.01, zone: "UTC" };
  const watchers = all.map((scenario) => ({ scenario, watcher: scenarioWatcher(termsOf(scenario), facts) }));
  const needs = watchers.flatMap(({ watcher }) => watcher.needs);
  const tape = new Tape({ calendar, tick: 0.01, k: 3 }, needs);
  let through = EVER;
  const spans: number[][] = [];
  const moments = arrivals().flatMap(({ base, bars }) => {
    const known = held.get(base);
    held.set(base, { base: readTimeframe(base), series: known ? concat([known.series, bars]) : bars });
    const told = [...closedBars([...held.values()], calendar, through)];
    through = told.at(-1)?.to ?? through;
    return told.map((bar) => tape.next(bar));
  });
  for (const { told } of moments) if (told.from >= START) spans.push([told.from, told.to]);
  const events = new Map(
    watchers.map(({ scenario, watcher }) => [scenario.id, watch(watcher, watcher.start, moments).events]),
  );
  return { spans, events };
}

/** The one minute a market has before anything is watched. */
const before = () => fromBars([{ time: START - MINUTE, open: 100, high: 100, low: 100, close: 100, volume: 1 }]);

async function runAndKill(url: string, alsoDatabase: boolean): Promise<boolean> {
  const child = spawn("node_modules/.bin/tsx", ["commands/trial/watch/worker.ts"], {
    stdio: ["ignore", "pipe", "ignore"],
    detached: true,
    env: { ...process.env, COMPASS_DATABASE: url, COMPASS_VAR: FOLDER, COMPASS_LOG: "silent" },
  });
  let said = "";
  const ended = new Promise((done) => child.once("exit", done));
  const begun = new Promise<void>((done) =>
    child.stdout.on("data", (chunk: Buffer) => ((said += chunk.toString()), done())),
  );
  await Promise.race([begun, ended]);
  await Promise.race([ended, new Promise((done) => setTimeout(done, 100 + Math.random() * 700))]);
  if (said.endsWith("done")) return true;
  if (alsoDatabase) process.kill(Number(readFileSync(`${FOLDER}/mariadb/server.pid`, "utf8")), "SIGKILL");
  if (child.pid) process.kill(-child.pid, "SIGKILL");
  await ended;
  return false;
}

/** A market, its published scenarios, and an alert that says every bar it is told. */
async function prepare(all: readonly Scenario[]): Promise<{ alert: string; edition: number }> {
  const password = randomUUID();
  const author = await createAccount({ email: `${randomUUID()}@meridian.example`, name: "Trial", password }, "analyst");
  const facts = { kind: "other", tick: 0.01, pip: 0.01, pipName: "pip", decimals: 2, calendar: ALL_HOURS };
  await Market.create({ id: MARKET, name: MARKET, ...facts });
  await transact(async (transaction) => {
    await appendBars({ marketId: MARKET, base: "PT1M", shelf: "live" }, before(), transaction);
    await ClockRow.create({ id: 1, now: START, speed: 0, wallTime: Date.now() }, { transaction });
  });
  for (const [i, one] of all.entries()) {
    const scenario = { ...writtenOf(one), role: i === 0 ? ("preferred" as const) : ("alternate" as const), weight: 10 };
    await saveScenario(MARKET, { version: 0, step: "save", scenario }, author.id);
  }
  const draft = await createDraft(author.id);
  const ids = all.map(({ id }) => id);
  const sections = [{ market: MARKET, rung: "PT1M", scenarios: ids }];
  await saveDraft(draft.id, { version: 1, ...plainDraft("T", "B", sections) });
  const edition = await publish(draft.id, author);
  const terms = { on: "close" as const, rung: "PT1M", again: true, note: "" };
  return { alert: await setAlert(MARKET, { terms }, author.id), edition };
}

/**
 * Lets bars of three resolutions arrive in random order while whoever stores them is killed again and again, and
 * compares
 * what the watchers were told with what follows from the order alone: each stretch once, and the same outcomes.
 */
export async function watchTrial(): Promise<void> {
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  let database = await startMariaDb(FOLDER);
  process.env.COMPASS_DATABASE = database.url;
  process.env.COMPASS_VAR = FOLDER;
  await migrator(openDatabase(database.url)).up();
  await openRecord();
  const all = scenarios();
  const { alert, edition } = await prepare(all);
  let [kills, databaseKills] = [0, 0];
  for (;;) {
    await closeDatabase();
    const alsoDatabase = kills % 3 === 2;
    if (await runAndKill(database.url, alsoDatabase)) break;
    kills++;
    if (alsoDatabase) {
      databaseKills++;
      database = await startMariaDb(FOLDER);
    }
  }
  openDatabase(database.url);
  const { spans, events } = expected(all);
  const fired = await FiringRow.findAll({ where: { alertId: alert }, order: [["firedAt", "ASC"]] });
  const told = fired.flatMap(({ detail }) => (detail ? [[detail.at, detail.knownAt]] : []));
  const twice = told.filter(([from], i) => i > 0 && from < told[i - 1][1]).length;
  const lengths = BASES.map((base) => `${told.filter(([from, to]) => to - from === LENGTHS[base]).length} of ${base}`);
  process.stdout.write(
    `told ${told.length} bars (${lengths.join(", ")}), ${twice} overlap; expected ${spans.length}\n`,
  );
  if (twice > 0 || JSON.stringify(told) !== JSON.stringify(spans))
    throw new CommandFault("What was told is not what follows from the order of arrival.");
  let count = 0;
  for (const [scenarioId, ought] of events) {
    const rows = await FollowUpRow.findAll({ where: { edition, scenarioId }, order: [["sequence", "ASC"]] });
    const is = rows.map(({ event }) => asFollowUp(event));
    if (JSON.stringify(is) !== JSON.stringify(ought))
      throw new CommandFault(`What became of scenario ${scenarioId} is not what follows from the bars it was told.`);
    count += is.length;
  }
  await closePool();
  await closeDatabase();
  await database.stop();
  rmSync(FOLDER, { recursive: true, force: true });
  const arrived = arrivals().length;
  process.stdout.write(
    `${arrived} arrivals of three resolutions, ${kills} kills, ${databaseKills} of them with the database: ` +
      `${all.length} scenarios with ${count} events and every told bar as expected, none twice.\n`,
  );
}

const LENGTHS = { P1D: 1440 * MINUTE, PT1H: 60 * MINUTE, PT1M: MINUTE };
