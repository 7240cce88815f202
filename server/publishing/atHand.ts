import { isDead, nameAt, readingOf, type CountState } from "#core/marks/count";
import { ROLES, type CountProps } from "#core/marks/countProps";
import type { Mark } from "#core/marks/kind";
import { bandText, percentText, priceText } from "#core/marks/wording";
import { calendarOf, factsOf, findMarket } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import type { Market } from "../database/models.ts";
import { areasOfMarket } from "../desk/areas.ts";
import { findingParamsOf } from "../desk/findingParams.ts";
import { livesOf, type SaidMark } from "../desk/lives.ts";
import { marksOf } from "../desk/marks.ts";
import { readingsOf } from "../desk/readings.ts";
import { rungSetsOf } from "../desk/rungSets.ts";
import type { AreaLine, CountsLine } from "./content.ts";

/** Areas that are told on each side of price. */
const BESIDE = 2;

const perMarket = async <T>(markets: readonly string[], linesOf: (market: Market) => Promise<T[]>): Promise<T[]> =>
  (await Promise.all(markets.map(async (id) => linesOf(await findMarket(id))))).flat();

/** The counts of some markets that are not archived: the preferred one first, the dead ones last. */
export function countsLines(markets: readonly string[]): Promise<CountsLine[]> {
  return perMarket(markets, async (market) => {
    const marks = (await marksOf(market.id)).filter(({ kind, hidden }) => kind === "count" && !hidden);
    const shown = marks.filter(({ props }) => props.role !== "archived");
    const lived = await livesOf(shown, (rung) => seriesOf(market, rung), factsOf(market), calendarOf(market));
    const days = await seriesOf(market, "P1D");
    const price = days.length > 0 ? days.close[days.length - 1] : NaN;
    const roleOf = ({ mark }: SaidMark) => ROLES.indexOf(mark.props.role as CountProps["role"]);
    return lived
      .sort((a, b) => Number(a.life.dead) - Number(b.life.dead) || roleOf(a) - roleOf(b))
      .map((one) => countsLine(one, price, market));
  });
}

function countsLine({ mark, life, says }: SaidMark, price: number, market: Market): CountsLine {
  const own = mark as unknown as Mark<CountProps>;
  const { role, weight } = own.props;
  const line: CountsLine = { market: market.name, rung: mark.rung, role, weight, says };
  if (life.dead) return line;
  const away = ({ killPrice }: { killPrice: number }) => Math.abs(killPrice - price);
  const [nearest] = readingOf(own)
    .asserted.filter((statement) => !isDead(life.state as CountState, statement))
    .sort((a, b) => away(a) - away(b));
  if (!nearest) return line;
  const { killSide, killPrice, statement, at } = nearest;
  const distance = percentText(Math.abs(killPrice - price) / price);
  const ends = `${killSide} ${priceText(killPrice, market)}, ${distance} away: ${statement}${nameAt(own, at)}`;
  return { ...line, ends };
}

/** The areas nearest to price on each side, of each of some markets, from high to low. */
export function areaLines(markets: readonly string[], accountId: string): Promise<AreaLine[]> {
  return perMarket(markets, async (market) => {
    const { chosen } = await rungSetsOf(accountId);
    const rungs = [...new Set([...chosen.rungs.map(({ rung }) => rung), "P1D"])];
    const read = await readingsOf(market, rungs, await findingParamsOf(accountId, chosen.id));
    const known = read.rungs.filter(({ until }) => until !== undefined);
    const price = known.at(-1)?.close;
    if (price === undefined) return [];
    const atrs = new Map(known.map(({ rung, atr }) => [rung, atr]));
    const counts = new Set((await marksOf(market.id)).filter(({ kind }) => kind === "count").map(({ id }) => id));
    const areas = (await areasOfMarket(market, read.facts, price, atrs)).map((area) => {
      const near = price > area.top ? area.top : price < area.bottom ? area.bottom : price;
      return { area, distance: (near - price) / price };
    });
    const byNearness = areas.sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance));
    const beside = new Set([
      ...byNearness.filter(({ distance }) => distance >= 0).slice(0, BESIDE),
      ...byNearness.filter(({ distance }) => distance <= 0).slice(0, BESIDE),
    ]);
    return [...beside]
      .sort((a, b) => b.area.top - a.area.top)
      .map(({ area, distance }) => ({
        market: market.name,
        band: bandText(area, market),
        distance,
        weight: area.weight,
        rungs: area.rungs,
        reasons: area.reasons.map(({ name }) => name),
        ...(area.reasons.some(({ id }) => counts.has(id)) ? { counted: true as const } : {}),
      }));
  });
}
