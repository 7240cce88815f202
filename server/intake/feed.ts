import { MINUTE } from "#core/time/dates";
import { appendBars, lastTime, readBars } from "../bars/chunks.ts";
import { lockMarket } from "../bars/markets.ts";
import { barsAppended } from "../watch/changes.ts";
import { transact } from "../database/connection.ts";
import { againUnderLease } from "../database/lease.ts";
import { BarChunk, ClockRow, type Market } from "../database/models.ts";
import { Failure } from "../failure.ts";

const BASE = "PT1M";

/** Moves the market's clock to `now` and plays every bar of the tape that is over by then. */
async function play(now: number, marketIds: readonly string[]): Promise<void> {
  await transact(async (transaction) => {
    const clock = await ClockRow.findByPk(1, { transaction, lock: transaction.LOCK.UPDATE });
    if (!clock || clock.now >= now) return;
    const played: Market[] = [];
    for (const marketId of marketIds) {
      const live = { marketId, base: BASE, shelf: "live" } as const;
      // A bar is known once it is over: its open is at least a minute ago. What is stored is not played again, even
      // if the clock was put back.
      const from = Math.max(clock.now - MINUTE, await lastTime(live, transaction)) + 1;
      const bars = await readBars({ marketId, base: BASE, shelf: "tape" }, from, now - MINUTE + 1, transaction);
      if (bars.length === 0) continue;
      played.push(await lockMarket(marketId, transaction));
      await appendBars(live, bars, transaction);
    }
    await clock.update({ now, wallTime: Date.now() }, { transaction });
    // Told once all are there, so that a market made of several sees them together.
    await barsAppended(played, now, transaction);
  });
}

async function marketsWithTape(): Promise<string[]> {
  const rows = await BarChunk.findAll({
    where: { shelf: "tape" },
    attributes: ["marketId"],
    group: ["marketId"],
    order: [["marketId", "ASC"]],
    raw: true,
  });
  return rows.map(({ marketId }) => marketId);
}

async function theClock(): Promise<ClockRow> {
  const clock = await ClockRow.findByPk(1);
  if (!clock)
    throw new Failure("no-feed", "This desk has no simulated feed.", {
      status: 409,
      remedy: "The feed belongs to the demo world.",
    });
  return clock;
}

/** Goes on by whole market minutes at once. */
export async function advance(minutes: number): Promise<void> {
  const { now } = await theClock();
  await play(now + minutes * MINUTE, await marketsWithTape());
}

export async function setSpeed(speed: number): Promise<void> {
  const clock = await theClock();
  await clock.update({ speed, wallTime: Date.now() });
}

/**
 * Plays the tape while the clock runs, and with it whatever watches bars. Any number of processes may run this: one of
 * them plays. Should two for a moment, each step moves the clock by the wall time since the last, whoever made that.
 */
export function runFeed(every = 500): () => void {
  let markets: string[] | undefined;
  const step = async () => {
    const clock = await ClockRow.findByPk(1, { raw: true });
    if (!clock || clock.speed <= 0) return;
    markets ??= await marketsWithTape();
    const elapsed = Math.min(Date.now() - clock.wallTime, 5_000);
    const now = Math.floor((clock.now + elapsed * clock.speed * 60) / MINUTE) * MINUTE;
    if (now > clock.now) await play(now, markets);
  };
  return againUnderLease("feed", step, every, "the feed could not make a step");
}
