import type { Filled, ReadySentence } from "#core/written/ready";
import { lastSwing, onTick, signOf, targetsAhead, termsWith, type ReadyGround } from "#core/written/ready/ground";
import { lengthOf } from "#core/marks/shown";
import type { Subject } from "#core/written/subject";
import type { WrittenPrice } from "#core/written/written";

/** Ticks beyond the extreme of the sweep at which the stop stands. */
const TICKS = -2;
/** How far beyond what was swept a scenario is wrong, in ATR (definition our own). */
const WRONG = 1;

/** A resting level is swept and closed back from; a shorter rung shifts; the gap it leaves is bought, or sold. */
export const sweepAndShift: ReadySentence = {
  name: "sweepAndShift",
  title: "Sweep and shift, in at the gap",
  says: "a level swept, a shorter rung shifts, in at the gap it leaves",
  fill(ground) {
    const level = levelNear(ground);
    if (!level) return "No level and no swing stands on this rung to be swept.";
    return swept(ground, level, `Sweep of ${level.name}`, { entry: "limit", gap: true });
  },
};

/** Equal highs, or lows, are run: the stops beyond them are taken and price turns. */
export const equalsRun: ReadySentence = {
  name: "equalsRun",
  title: "Equal highs or lows run",
  says: "what rests beyond equal extremes is taken, and price turns",
  fill(ground) {
    const pool = ground.subjects.find(({ kind }) => kind === "pool");
    if (!pool) return "No liquidity pool, of equal highs or lows, is marked on the charts.";
    return swept(ground, pool, `Run of ${pool.name}`, { entry: "market", gap: false });
  },
};

interface Level {
  name: string;
  price: WrittenPrice;
  at: number;
}

function levelNear(ground: ReadyGround): (Level & { isAbove: boolean }) | undefined {
  const { subjects, close } = ground;
  const own = subjects.find(({ band, role, kind }) => !band && !role && kind !== "trendLine");
  if (own) return { ...asLevel(own), isAbove: own.bottom > close };
  const [low, high] = [lastSwing(ground, "low"), lastSwing(ground, "high")];
  if (low !== undefined && low < close) return { name: "the last low", price: low, at: low, isAbove: false };
  if (high !== undefined && high > close) return { name: "the last high", price: high, at: high, isAbove: true };
  return undefined;
}

const asLevel = ({ name, price, bottom }: Subject): Level => ({ name, price, at: bottom });

function swept(
  ground: ReadyGround,
  level: Level | Subject,
  title: string,
  { entry, gap }: { entry: "limit" | "market"; gap: boolean },
): Filled {
  const { close, atr, rung, finer } = ground;
  const at = "at" in level ? level.at : level.bottom;
  const direction = at < close ? "long" : "short";
  const sign = signOf(direction);
  const { price } = level;
  return {
    title,
    terms: termsWith(
      direction,
      {
        if: [
          { when: { on: "sweep", side: sign > 0 ? "low" : "high", price, rung, within: 1 } },
          { when: { on: "shift", direction: sign > 0 ? "up" : "down", rung: finer }, within: 20 },
        ],
        wrong: onTick(at - sign * WRONG * atr, ground),
        leastReward: 1,
      },
      {
        entry: gap ? { order: entry, price: { bind: "gapNear", step: 2 } } : { order: entry },
        stop: { bind: "sweptExtreme", step: 1, ticks: TICKS },
        targets: targetsAhead(ground, direction, at + sign * 0.5 * atr, 0.75 * atr),
      },
    ),
  };
}

/** A rule without a number in it: the extreme of the day before is swept, a shorter rung shifts. */
export const yesterdaySwept: ReadySentence = {
  name: "yesterdaySwept",
  title: "Yesterday's extreme swept",
  says: "a rule for any day: swept, shifted, in at the gap, out at 2 R and 3 R",
  fill({ close, rung, finer, subjects }) {
    const below = subjects.findIndex(({ top }) => top < close);
    const above = subjects.findIndex(({ bottom }) => bottom > close);
    // What stands nearer is what price is more likely to be turned at.
    const isLong = above < 0 || (below >= 0 && below < above);
    const own = lengthOf(rung) < lengthOf("P1D") ? rung : finer;
    return {
      title: `${isLong ? "Low" : "High"} of the day before swept`,
      terms: termsWith(
        isLong ? "long" : "short",
        {
          if: [
            {
              when: {
                on: "sweep",
                side: isLong ? "low" : "high",
                price: { previous: "P1D", of: isLong ? "low" : "high" },
                rung: own,
                within: 1,
              },
            },
            { when: { on: "shift", direction: isLong ? "up" : "down", rung: own }, within: 20 },
          ],
          wrong: { bind: "sweptExtreme", step: 1, ticks: TICKS },
        },
        {
          entry: { order: "limit", price: { bind: "gapNear", step: 2 } },
          stop: { bind: "sweptExtreme", step: 1, ticks: TICKS },
          targets: [
            { price: { r: 2 }, share: 0.5 },
            { price: { r: 3 }, share: 0.5 },
          ],
        },
      ),
    };
  },
};
