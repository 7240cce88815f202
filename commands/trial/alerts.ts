import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { randomUUID } from "node:crypto";
import type { AlertTerms } from "#core/alerts/alert";
import { resample } from "#core/series/resample";
import { fromBars, type Bar, type Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { StructureDetector } from "#core/structure/structure";
import { SwingDetector } from "#core/structure/swingDetector";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { seeded } from "#demo/random";
import { createAccount } from "../../server/accounts/accounts.ts";
import { setAlert } from "../../server/alerts/alerts.ts";
import { appendBars } from "../../server/bars/chunks.ts";
import { readTimeframe } from "../../server/bars/timeframes.ts";
import { closeDatabase, openDatabase, transact } from "../../server/database/connection.ts";
import { sealOnce } from "../../server/record/adopt.ts";
import { migrator } from "../../server/database/migrate.ts";
import { AlertRow, ClockRow, FiringRow, Market } from "../../server/database/models.ts";
import { sized } from "../../bench/size.ts";
import { startMariaDb } from "../desk/mariadb.ts";
import { CommandFault } from "../desk/timing.ts";

const FOLDER = "var/trial";
const MARKET = "alerts";
const MINUTE = 60_000;
const START = Date.UTC(2026, 0, 5);
const MINUTES = sized(20_000, 600);
const PRICES = [96, 98, 99, 100, 101, 102, 104];
const LEAVE = 0.2;

/** Minutes of a price that wanders about 100. */
function tape(): Series {
  const random = seeded("alerts of the trial");
  let price = 100;
  const cents = (value: number) => Math.round(value * 100) / 100;
  return fromBars(
    Array.from({ length: MINUTES }, (_, i): Bar => {
      const open = cents(price);
      price += 0.08 * random.normal() + (100 - price) * 0.002;
      const close = cents(price);
      return {
        time: START + i * MINUTE,
        open,
        high: cents(Math.max(open, close) + 0.03 * Math.abs(random.normal())),
        low: cents(Math.min(open, close) - 0.03 * Math.abs(random.normal())),
        close,
        volume: 1,
      };
    }),
  );
}

/** What ought to fire, by a plain reading of the whole tape at once; instants by what is waited for. */
function expected(bars: Series): Map<string, number[]> {
  const out = new Map<string, number[]>();
  for (const price of PRICES) {
    const times: number[] = [];
    let away = true;
    for (let i = 1; i < bars.length; i++) {
      const meets = bars.low[i] <= price && bars.high[i] >= price;
      const across =
        (bars.low[i] > price && bars.close[i - 1] < price) || (bars.high[i] < price && bars.close[i - 1] > price);
      if ((meets || across) && away) {
        times.push(bars.time[i] + MINUTE);
        away = false;
      }
      if (bars.low[i] - price >= LEAVE || price - bars.high[i] >= LEAVE) away = true;
    }
    out.set(`reach ${price}`, times);
  }
  const calendar = new Calendar(ALL_HOURS);
  const of = (rung: string) => resample(bars, readTimeframe("PT1M"), readTimeframe(rung), calendar);
  const hours = of("PT1H");
  // The last hour is not over with the tape.
  out.set(
    "close PT1H",
    Array.from(hours.time, (time) => time + 60 * MINUTE).filter((at) => at <= bars.time[bars.length - 1] + MINUTE),
  );
  const quarters = of("PT15M");
  const track = new Track(quarters, 0.01);
  const swings = new SwingDetector(track, { k: 3, ties: "last" });
  const structure = new StructureDetector(track, swings, 3);
  run(track, [swings, structure]);
  out.set(
    "shift PT15M",
    structure.events.filter(({ event }) => event === "shift").map(({ at }) => quarters.time[at] + 15 * MINUTE),
  );
  return out;
}

function nameOf(terms: AlertTerms): string {
  return terms.on === "reach" ? `reach ${terms.at.bottom}` : `${terms.on} ${"rung" in terms ? terms.rung : ""}`;
}

async function playAndKill(url: string, alsoDatabase: boolean): Promise<void> {
  const child = spawn("node_modules/.bin/tsx", ["commands/trial/alertsWorker.ts"], {
    stdio: ["ignore", "pipe", "ignore"],
    detached: true,
    env: { ...process.env, COMPASS_DATABASE: url, COMPASS_VAR: FOLDER, COMPASS_LOG: "silent" },
  });
  const ended = new Promise((done) => child.once("exit", done));
  await Promise.race([new Promise((done) => child.stdout.once("data", done)), ended]);
  await new Promise((done) => setTimeout(done, 100 + Math.random() * 900));
  if (alsoDatabase) process.kill(Number(readFileSync(`${FOLDER}/mariadb/server.pid`, "utf8")), "SIGKILL");
  if (child.pid) process.kill(-child.pid, "SIGKILL");
  await ended;
}

/**
 * Plays a market at full speed while the server is killed again and again, and compares what alerts told with a plain
 * reading.
 */
export async function alertsTrial(): Promise<void> {
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  let database = await startMariaDb(FOLDER);
  process.env.COMPASS_DATABASE = database.url;
  process.env.COMPASS_VAR = FOLDER;
  await migrator(openDatabase(database.url)).up();
  await sealOnce();
  const bars = tape();
  const account = await createAccount(
    { email: `${randomUUID()}@meridian.example`, name: "Trial", password: randomUUID() },
    "analyst",
  );
  await Market.create({
    id: MARKET,
    name: MARKET,
    kind: "other",
    tick: 0.01,
    pip: 0.01,
    pipName: "pip",
    decimals: 2,
    calendar: ALL_HOURS,
  });
  const first = { marketId: MARKET, base: "PT1M" } as const;
  await transact(async (transaction) => {
    await appendBars(
      { ...first, shelf: "live" },
      fromBars([
        { time: START, open: bars.open[0], high: bars.high[0], low: bars.low[0], close: bars.close[0], volume: 1 },
      ]),
      transaction,
    );
    await appendBars({ ...first, shelf: "tape" }, bars, transaction);
    await ClockRow.create({ id: 1, now: START + MINUTE, speed: 0, wallTime: Date.now() }, { transaction });
  });
  const base = { again: true, note: "" };
  for (const price of PRICES)
    await setAlert(
      MARKET,
      { terms: { on: "reach", at: { bottom: price, top: price, name: "level", leave: LEAVE }, ...base } },
      account.id,
    );
  await setAlert(MARKET, { terms: { on: "close", rung: "PT1H", ...base } }, account.id);
  await setAlert(MARKET, { terms: { on: "shift", rung: "PT15M", direction: "either", ...base } }, account.id);
  let [kills, databaseKills] = [0, 0];
  const began = performance.now();
  for (;;) {
    const { now } = await ClockRow.findByPk(1, { rejectOnEmpty: true });
    if (now >= START + MINUTES * MINUTE) break;
    await closeDatabase();
    const alsoDatabase = kills % 4 === 3;
    await playAndKill(database.url, alsoDatabase);
    kills++;
    if (alsoDatabase) {
      databaseKills++;
      database = await startMariaDb(FOLDER);
    }
    openDatabase(database.url);
  }
  const seconds = (performance.now() - began) / 1000;
  let total = 0;
  for (const [name, times] of expected(bars)) {
    const alerts = await AlertRow.findAll();
    const alert = alerts.find(({ terms }) => nameOf(terms) === name);
    const fired = (await FiringRow.findAll({ where: { alertId: alert?.id ?? "" } }))
      .map(({ firedAt }) => firedAt)
      .sort((a, b) => a - b);
    const missed = times.filter((time) => !fired.includes(time));
    const extra = fired.filter((time, i) => !times.includes(time) || fired[i - 1] === time);
    total += fired.length;
    process.stdout.write(
      `${name.padEnd(12)} ${times.length} events, ${fired.length} told, ${missed.length} missed, ` +
        `${extra.length} too many\n`,
    );
    if (missed.length + extra.length > 0) throw new CommandFault(`${name}: what was told is not what happened.`);
  }
  await closeDatabase();
  await database.stop();
  rmSync(FOLDER, { recursive: true, force: true });
  process.stdout.write(
    `\n${MINUTES} minutes in ${seconds.toFixed(0)} s, ${kills} kills of the server, ${databaseKills} of ` +
      `them with the database: ${total} alerts, each told once.\n`,
  );
}
