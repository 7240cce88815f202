import { bearingsOf } from "#core/marks/bearing";
import { lengthOf } from "#core/marks/shown";
import { isSilent } from "#core/marks/registry";
import { priceText, rungText } from "#core/marks/wording";
import { calendarOf, factsOf, findMarket } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { findingParamsOf } from "../desk/findingParams.ts";
import { horizonsOf } from "../desk/horizons.ts";
import { livesOf } from "../desk/lives.ts";
import { marksOf } from "../desk/marks.ts";
import { readingsOf } from "../desk/readings.ts";
import { rungSetsOf } from "../desk/rungSets.ts";

/** What the desk says of a market on one rung, in a sentence or a few. */
export interface RungArgument {
  rung: string;
  text: string;
  /** Whether it speaks for one of the horizons. */
  main: boolean;
}

/** Marks of a rung that are told, and reasons of the machine. */
const MOST = 3;

/**
 * The argument from the highest rung down, as the desk stands: on each rung where it points and why, the analyst's own
 * word before the machine's, and what its live marks say. Rungs that say nothing are left out; asked are `only` some,
 * or all of the analyst's own.
 */
export async function argumentOf(
  marketId: string,
  accountId: string,
  only?: readonly string[],
): Promise<RungArgument[]> {
  const market = await findMarket(marketId);
  const facts = factsOf(market);
  const { chosen } = await rungSetsOf(accountId);
  const rungs = (only ?? chosen.rungs.map(({ rung }) => rung)).toSorted((a, b) => lengthOf(b) - lengthOf(a));
  const marks = (await marksOf(marketId)).filter(({ hidden }) => !hidden);
  const own = bearingsOf(marks);
  const { rungs: readings } = await readingsOf(market, rungs, await findingParamsOf(accountId, chosen.id));
  const said = await livesOf(
    marks.filter((mark) => !isSilent(mark)),
    (rung) => seriesOf(market, rung),
    facts,
    calendarOf(market),
  );
  const main = new Set(Object.values(await horizonsOf(accountId)).flat());
  return rungs.flatMap((rung): RungArgument[] => {
    const reading = readings.find((one) => one.rung === rung && one.until !== undefined);
    const word = own.get(rung)?.props;
    const reasons = word
      ? word.reasons
      : reading?.bearing.reasons
          .slice(0, MOST)
          .map(({ says, price }) => (price === undefined ? says : `${says} ${priceText(price, facts)}`))
          .join("; ");
    const direction = word?.direction ?? reading?.bearing.direction;
    const points = direction ? `${rungText(rung)} ${direction}${reasons ? `: ${reasons}` : ""}.` : "";
    const lines = said
      .filter(({ mark, life }) => mark.rung === rung && !life.dead)
      .slice(-MOST)
      .map(({ says }) => (/[.!?]$/.test(says) ? says : `${says}.`));
    const text = [points, ...lines].filter(Boolean).join(" ");
    return text === "" ? [] : [{ rung, text, main: main.has(rung) }];
  });
}
