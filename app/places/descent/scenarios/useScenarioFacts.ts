import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { ConditionFault } from "#core/conditions/fields";
import { sma } from "#core/studies/sma";
import type { Series } from "#core/series/series";
import { lengthOf } from "#core/marks/shown";
import { bearingsOf } from "#core/marks/bearing";
import { rangeOfTrend } from "#core/structure/range";
import { isIntraday } from "#core/time/timeframe";
import { aroundOf, type Around } from "#core/written/around";
import { checklistOf, type CheckLine } from "#core/written/checklist";
import { figuresOf, type AccountRisk, type WrittenFigures } from "#core/written/figures";
import { marksFollowed } from "#core/written/followMarks";
import { termsOfWritten } from "#core/written/read";
import type { Written } from "#core/written/written";
import type { ScenarioContext } from "../../../../server/scenarios/context.ts";
import type { Work } from "../session/useWork.ts";
import { countDied, type Ground } from "./useGround.ts";

/** What a scenario that is written comes to: its figures, what lies about it, and what speaks against it. */
export interface ScenarioFacts {
  figures: WrittenFigures;
  around: Around;
  lines: CheckLine[];
}

const HOUR = 3_600_000;

/** `undefined` while its terms cannot be followed yet. */
export function useScenarioFacts(
  draft: Written,
  work: Work,
  ground: Ground,
  account: AccountRisk | undefined,
): ScenarioFacts | undefined {
  const { desk, machine, rung, marks, view } = work;
  const { market } = desk;
  const { close, atr } = ground.ready;
  // Asked anew when the hour in which it lapses is another one.
  const until = Math.ceil(Date.parse(draft.terms.expires) / HOUR) * HOUR;
  const { data: context } = useQuery<ScenarioContext>({
    queryKey: [`/descent/${market.id}/scenarios/context?until=${until}`],
    enabled: Number.isFinite(until),
    placeholderData: (before) => before,
  });
  return useMemo(() => {
    const terms = followable(draft);
    if (!terms) return undefined;
    const series = view?.bars?.series;
    const rungs = machine.findings?.rungs ?? [];
    const day = rungs.find((one) => one.rung === "P1D");
    const reading = rungs.find((one) => one.rung === rung);
    const longer = rungs
      .filter((one) => lengthOf(one.rung) > lengthOf(rung))
      .sort((a, b) => lengthOf(a.rung) - lengthOf(b.rung))[0];
    const said = longer && bearingsOf(marks).get(longer.rung)?.props.direction;
    const higher = longer && { rung: longer.rung, direction: asWay(said ?? longer.bearing.direction) };
    const figures = figuresOf(terms, market, { close, atr: atr || undefined, account });
    const touches = marksFollowed(draft).flatMap((id) => {
      const state = ground.lifeOf(id)?.life.state as { touches?: number } | null | undefined;
      return state?.touches ?? [];
    });
    const lines = checklistOf({
      direction: draft.terms.direction,
      figures,
      leastReward: draft.terms.leastReward,
      close,
      atr: atr || undefined,
      mean: series && series.length >= 20 ? sma(series.close.slice(-20), 20).at(-1) : undefined,
      rung,
      higher,
      range: reading?.trend && rangeOfTrend(reading.trend),
      events: context?.events ?? [],
      holidays: context?.holidays.length ?? 0,
      halfDays: context?.halfDays.length ?? 0,
      countDied: countDied(draft.restsOn, ground.lifeOf),
      touches: touches.length > 0 ? Math.max(...touches) : undefined,
      overnight: overnightOf(draft, desk.calendar),
      others: context?.others ?? [],
    });
    const made = series && view && isIntraday(view.timeframe) ? rangeToday(series, view.calendar) : undefined;
    return { figures, around: aroundOf(terms, { close, subjects: ground.subjects, usual: day?.atr, made }), lines };
  }, [draft, view, machine.findings, rung, marks, market, close, atr, account, ground, context, desk.calendar]);
}

function followable(draft: Written) {
  try {
    return termsOfWritten(draft);
  } catch (error) {
    if (error instanceof ConditionFault) return undefined;
    throw error;
  }
}

const asWay = (direction: string): "up" | "down" | "none" =>
  direction === "up" || direction === "down" ? direction : "none";

/** Whether nothing keeps it from being entered outside of the regular hours; `undefined` where there are no others. */
function overnightOf(draft: Written, { sessions }: Work["desk"]["calendar"]): boolean | undefined {
  if (!sessions.some(({ kind }) => kind === "overnight")) return undefined;
  const conditions = [...draft.terms.if.map(({ when }) => when), ...draft.terms.while];
  return !conditions.some(({ on }) => on === "time");
}

/** The range of the last trading date so far. */
function rangeToday(
  { time, high, low, length }: Series,
  calendar: NonNullable<Work["view"]>["calendar"],
): number | undefined {
  if (length === 0) return undefined;
  const today = calendar.tradingDate(time[length - 1]);
  let [bottom, top] = [Infinity, -Infinity];
  for (let i = length - 1; i >= 0 && calendar.tradingDate(time[i]) === today; i--) {
    bottom = Math.min(bottom, low[i]);
    top = Math.max(top, high[i]);
  }
  return top - bottom;
}
