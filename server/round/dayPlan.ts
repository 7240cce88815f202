import { placesOf } from "#core/finding/found";
import { waitingOf } from "#core/finding/answer";
import type { MarketFacts } from "#core/marks/kind";
import { levelName, levelsOf } from "#core/marks/levels";
import { isSilent } from "#core/marks/registry";
import {
  planAreas,
  proposalLines,
  scenarioLines,
  shiftLines,
  withinReach,
  withoutRepeats,
  yesterdayLines,
  type PlanArea,
  type PlanLine,
} from "#core/round/dayPlan";
import { worthOfFound } from "#core/measure/worthText";
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
import { livesOf } from "../desk/lives.ts";
import { keptWorth } from "../desk/worth.ts";

export interface DayPlan {
  market: MarketFacts;
  price: number | undefined;
  /** ATR(14) of the day, and the mean range of the last twenty days. */
  atr: number;
  usual: number;
  /** The few areas that matter today, and the others within reach; from high to low. */
  areas: PlanArea[];
  rest: PlanArea[];
  /** Wide bands that price is inside of. */
  within: PlanLine[];
  /** What is too far away for today. */
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
  if (price === undefined)
    return { market: factsOf(market), price, atr: 0, usual, areas: [], rest: [], within: [], further: 0, events, now };
  const marks = await marksOf(market.id);
  const lived = (
    await livesOf(
      marks.filter((mark) => !isSilent(mark) && !mark.hidden),
      (rung) => seriesOf(market, rung),
      factsOf(market),
      calendarOf(market),
    )
  ).filter(({ life }) => !life.dead);
  const standing = levelsOf(lived, price).map(({ rung, bottom, top, kind, ...named }, i): PlanLine => ({
    key: `mark ${i} ${named.label}`,
    what: "mark",
    name: levelName(named, factsOf(market)),
    rungs: [rung],
    ...{ bottom, top, kind },
  }));
  const scenarios = await scenariosOf(market.id);
  const all = [
    ...standing,
    ...scenarioLines(scenarios.map(({ scenario }) => ({ ...scenario, ...outlineOfWritten(scenario) }))),
    ...yesterdayLines(day?.lastBar),
    ...shiftLines(known),
    ...proposalLines(placesOf(waitingOf(facts, marks))),
  ];
  const { lines, further } = withinReach(withoutRepeats(all), price, usual);
  const worth = await keptWorth(market, rungs);
  const ground = {
    ...{ price, tick: market.tick, unit: day?.atr ?? 0 },
    atrOf: (rung: string) => known.find((one) => one.rung === rung)?.atr ?? day?.atr ?? 0,
    isBetter: ({ fact }: PlanLine) => fact !== undefined && worthOfFound(fact, worth)?.worth.verdict === "better",
  };
  return {
    market: factsOf(market),
    ...{ price, atr: day?.atr ?? 0, usual, further, events, now },
    ...planAreas(lines, ground),
  };
}
