import type { Transaction } from "sequelize";
import type { DeriveMarketDto } from "#contracts/derive";
import { checkFormula, type Formula, type Leg } from "#core/series/formula";
import { deriveFromLayers } from "#core/series/layers";
import { firstAtOrAfter, type Series } from "#core/series/series";
import type { CalendarSpec } from "#core/time/calendar";
import { parseClock } from "#core/time/dates";
import { audit } from "../audit/audit.ts";
import { isDuplicate, transact } from "../database/connection.ts";
import { Market } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { slugOf } from "./slug.ts";
import { layersOf } from "./layers.ts";
import { calendarOf, legsOf } from "./markets.ts";

/** Makes a market of others. Its bars are never stored: they are made of the legs' whenever they are asked for. */
export async function deriveMarket({
  name,
  form,
  legs: asked,
  scale,
  tick,
  decimals,
  hoursOf,
}: DeriveMarketDto): Promise<Market> {
  const legs = asked.map(({ market, units }): Leg => ({ market, units }));
  const [problem] = checkFormula({ form, legs, scale });
  if (problem) throw new Failure("formula", problem, { kept: "Nothing was made.", fields: { legs: problem } });
  return transact(async (transaction) => {
    const markets = await Promise.all(legs.map(({ market }) => legMarket(market, transaction)));
    const { deep, wide } = await extentOf(markets);
    if (deep > DEEPEST || wide > WIDEST)
      throw new Failure(
        "too-deep",
        deep > DEEPEST
          ? `Markets made of others can stand on each other ${DEEPEST} deep.`
          : `A market can be made of ${WIDEST} prices at most, those of its legs counted.`,
        {
          kept: "Nothing was made.",
          remedy: "Make it of the markets that its legs are made of.",
        },
      );
    const formula: Formula = { form, legs: form === "basket" ? await unitsOfBasket(legs, markets) : legs, scale };
    const hours = markets.find(({ id }) => id === hoursOf) ?? shortest(markets);
    const row = { name, kind: form, tick, pip: tick, pipName: "tick", decimals, calendar: hours.calendar, formula };
    const made = await Market.create({ id: slugOf(name), ...row }, { transaction }).catch((error: unknown) => {
      if (!isDuplicate(error)) throw error;
      throw new Failure("taken", "There is already a market of this name.", {
        kept: "Nothing was made.",
        fields: { name: "This name is taken." },
      });
    });
    await audit({ what: "market made", subject: name, detail: { formula } });
    return made;
  });
}

/** How deep markets made of others may stand on each other, and of how many prices one may be made in the end. */
const DEEPEST = 3;
const WIDEST = 60;

/** How deep a market of these legs would stand, and of how many prices it would be made. */
async function extentOf(legs: readonly Market[]): Promise<{ deep: number; wide: number }> {
  const extents = await Promise.all(
    legs.map(async (leg) => (leg.formula ? extentOf(await legsOf(leg)) : { deep: 0, wide: 1 })),
  );
  return {
    deep: 1 + Math.max(0, ...extents.map(({ deep }) => deep)),
    wide: extents.reduce((sum, { wide }) => sum + wide, 0),
  };
}

async function legMarket(id: string, transaction: Transaction): Promise<Market> {
  const market = await Market.findByPk(id, { transaction });
  if (market?.id !== id)
    throw new Failure("leg", "One of the markets is no longer here.", {
      kept: "Nothing was made.",
      remedy: "Choose another.",
    });
  return market;
}

/**
 * Units of each leg so that the basket stands at 100 (before its scale) on the first day all legs have closed, each
 * leg with its share of the weights. They are fixed then, so that later or earlier bars move nothing.
 */
async function unitsOfBasket(legs: readonly Leg[], markets: readonly Market[]): Promise<Leg[]> {
  const days = await Promise.all(
    markets.map(async (market) =>
      deriveFromLayers(await layersOf(market), { count: 1, unit: "day" }, calendarOf(market)),
    ),
  );
  const first = firstCommon(days);
  if (first === undefined)
    throw new Failure("apart", "These markets have no day in common.", {
      kept: "Nothing was made.",
      remedy: "Import bars of a common stretch first.",
    });
  const whole = legs.reduce((sum, { units }) => sum + units, 0);
  return legs.map(({ market, units }, k) => {
    const close = days[k].close[firstAtOrAfter(days[k], first)];
    if (close <= 0)
      throw new Failure("negative", `${markets[k].name} has no price above zero to be weighed by.`, {
        kept: "Nothing was made.",
      });
    return { market, units: (100 * units) / whole / close };
  });
}

function firstCommon(days: readonly Series[]): number | undefined {
  const others = days.slice(1).map(({ time }) => new Set(time));
  return days[0].time.find((time) => others.every((times) => times.has(time)));
}

function shortest(markets: readonly Market[]): Market {
  const open = markets.map(({ calendar }) => minutesOpen(calendar));
  return markets[open.indexOf(Math.min(...open))];
}

/** Minutes a calendar is open in a week without holidays. */
function minutesOpen({ sessions }: CalendarSpec): number {
  const clock = (text: string) => parseClock(text) ?? 0;
  return sessions.reduce(
    (sum, { days, open, close, opensDayBefore }) =>
      sum + days.length * (clock(close) - clock(open) + (opensDayBefore ? 1440 : 0)),
    0,
  );
}
