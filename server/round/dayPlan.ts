import { placesOf } from "#core/finding/found";
import { waitingOf } from "#core/finding/answer";
import type { MarketFacts } from "#core/marks/kind";
import { levelName, levelsOf } from "#core/marks/levels";
import { isSilent } from "#core/marks/registry";
import {
  areaLines,
  proposalLines,
  scenarioLines,
  shiftLines,
  withinReach,
  withoutRepeats,
  yesterdayLines,
  type PlanLine,
} from "#core/round/dayPlan";
import { outlineOfWritten } from "#core/written/outline";
import { rangeUsed } from "#core/round/standing";
import { calendarOf, factsOf, findMarket } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import { findingParamsOf } from "../desk/findingParams.ts";
import { marksOf } from "../desk/marks.ts";
import { readingsOf } from "../desk/readings.ts";
import { rungSetsOf } from "../desk/rungSets.ts";
import { scenariosOf } from "../desk/scenarios.ts";
import { eventsTouching, type TouchingEvent } from "../events/events.ts";
import { readClock } from "../clock.ts";
import { areasOfMarket } from "../desk/areas.ts";
import { livesOf } from "../desk/lives.ts";

export interface DayPlan {
  market: MarketFacts;
  price: number | undefined;
  /** ATR(14) of the day, and the mean range of the last twenty days. */
  atr: number;
  usual: number;
  lines: PlanLine[];
  /** Lines too far away for today. */
  further: number;
  events: TouchingEvent[];
  now: number;
}

/**
 * Everything a day may come to on one market, over all rungs: the analysts' live marks, what is offered, yesterday,
 * next shifts, areas.
 */
export async function dayPlanOf(marketId: string, accountId: string): Promise<DayPlan> {
  const [market, { chosen }, { now }] = await Promise.all([findMarket(marketId), rungSetsOf(accountId), readClock()]);
  const rungs = chosen.rungs.map(({ rung }) => rung);
  const { rungs: readings, facts } = await readingsOf(
    market,
    [...new Set([...rungs, "P1D"])],
    await findingParamsOf(accountId, chosen.id),
  );
  const known = readings.filter(({ until }) => until !== undefined);
  const days = await seriesOf(market, "P1D");
  const price = known.at(-1)?.close;
  const day = known.find(({ rung }) => rung === "P1D");
  const events = (await eventsTouching([market], now)).get(market.id) ?? [];
  const usual = rangeUsed(days)?.usual ?? 0;
  if (price === undefined) return { market: factsOf(market), price, atr: 0, usual, lines: [], further: 0, events, now };
  const marks = await marksOf(market.id);
  const lived = (
    await livesOf(
      marks.filter((mark) => !isSilent(mark) && !mark.hidden),
      (rung) => seriesOf(market, rung),
      factsOf(market),
      calendarOf(market),
    )
  ).filter(({ life }) => !life.dead);
  const areas = await areasOfMarket(market, facts, price, new Map(known.map(({ rung, atr }) => [rung, atr])));
  const standing = levelsOf(lived, price).map(({ rung, bottom, top, ...named }, i): PlanLine => ({
    key: `mark ${i} ${named.label}`,
    what: "mark",
    name: levelName(named, factsOf(market)),
    rungs: [rung],
    bottom,
    top,
  }));
  const scenarios = await scenariosOf(market.id);
  const all = [
    ...standing,
    ...scenarioLines(scenarios.map(({ scenario }) => ({ ...scenario, ...outlineOfWritten(scenario) }))),
    ...yesterdayLines(day?.lastBar),
    ...shiftLines(known),
    ...areaLines(areas),
    ...proposalLines(placesOf(waitingOf(facts, marks))),
  ];
  return {
    market: factsOf(market),
    price,
    atr: day?.atr ?? 0,
    usual,
    ...withinReach(withoutRepeats(all), price, usual),
    events,
    now,
  };
}
