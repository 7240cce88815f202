import type { CalendarEvent } from "#core/events/event";
import { grouped } from "#core/events/event";
import { countText, percentText, rungText } from "#core/marks/wording";
import type { OrderFigures, WrittenFigures } from "#core/written/figures";

/** Rules a scenario is held against before it is published; each can be waived with a reason. */
export const RULES = {
  bearing: "A trade goes with the bearing of the next higher rung.",
  middle: "No entry between 38.2 and 61.8 % of the range.",
  mean: "No entry further than 2 ATR from the average of 20, away from it.",
  wideStop: "The stop stands no further than 3 ATR away.",
  noise: "The stop stands no nearer than half an ATR.",
  reward: "Reward to risk is 1 or more.",
  events: "No release, speech or expiry of weight falls within its life.",
  closed: "No holiday and no half day falls within its life.",
  reached: "No target has been reached already.",
  count: "The count it rests on is alive.",
  touched: "What it trades from was touched at most twice.",
  thin: "It is entered in the day's hours, when most of the market is awake.",
  twice: "No other open scenario takes the same risk.",
} as const;
export type Rule = keyof typeof RULES;

export interface CheckLine {
  rule: Rule;
  /** Whether it speaks against the scenario; `undefined` when that cannot be known. */
  against: boolean | undefined;
  /** What was measured, with its numbers. */
  sentence: string;
}

/** What of the market, and of the desk, a scenario is held against. */
export interface CheckFacts {
  direction: "long" | "short";
  figures: WrittenFigures;
  /** What it asks of its reward to risk at least, where it does. */
  leastReward?: number | undefined;
  close: number;
  /** ATR(14) of the rung, and the average of 20 closes of it. */
  atr: number | undefined;
  mean: number | undefined;
  rung: string;
  /** The bearing of the next higher rung. */
  higher: { rung: string; direction: "up" | "down" | "none" } | undefined;
  range: { bottom: number; top: number } | undefined;
  /** What touches the market within its life, by time. */
  events: readonly Pick<CalendarEvent, "kind" | "title" | "at" | "allDay" | "impact">[];
  /** Dates within its life on which the market stands still, or closes early. */
  holidays: number;
  halfDays: number;
  /** What became of the count it rests on; "" while it lives, `undefined` where it rests on none. */
  countDied: string | undefined;
  /** How often what it trades from has been touched. */
  touches: number | undefined;
  /** Whether it may be entered overnight; `undefined` where a market has no such hours. */
  overnight: boolean | undefined;
  /** Open scenarios of other markets that move together with this one. */
  others: readonly { title: string; market: string; direction: "long" | "short"; correlation: number; n: number }[];
}

/** Daily returns move together from here on (definition our own). */
export const TOGETHER = 0.6;

export function checklistOf(facts: CheckFacts): CheckLine[] {
  const first = facts.figures.orders.find((one) => one !== undefined);
  return [
    bearingLine(facts),
    middleLine(facts, first),
    meanLine(facts, first),
    ...stopLines(facts, first),
    rewardLine(facts),
    ...calendarLines(facts),
    reachedLine(facts, first),
    ...(facts.countDied === undefined
      ? []
      : [line("count", facts.countDied !== "", facts.countDied || "The count it rests on lives.")]),
    ...(facts.touches === undefined
      ? []
      : [line("touched", facts.touches > 2, `Touched ${countText(facts.touches, "time")} so far.`)]),
    ...(facts.overnight === undefined
      ? []
      : [
          line(
            "thin",
            facts.overnight,
            facts.overnight ? "It may be entered overnight." : "It cannot be entered overnight.",
          ),
        ]),
    twiceLine(facts),
  ];
}

const line = (rule: Rule, against: boolean | undefined, sentence: string): CheckLine => ({ rule, against, sentence });
const unknown = (rule: Rule, why: string) => line(rule, undefined, why);
const NO_ENTRY = "Its entry is not known yet.";

function bearingLine({ higher, direction }: CheckFacts): CheckLine {
  if (!higher || higher.direction === "none") return unknown("bearing", "The next higher rung has no bearing.");
  const against = (higher.direction === "up") !== (direction === "long");
  return line("bearing", against, `${rungText(higher.rung)} bears ${higher.direction}; this is a ${direction}.`);
}

function middleLine({ range, rung }: CheckFacts, first: OrderFigures | undefined): CheckLine {
  if (!range || !first) return unknown("middle", first ? `${rungText(rung)} has no range.` : NO_ENTRY);
  const at = (first.entry - range.bottom) / (range.top - range.bottom);
  return line(
    "middle",
    at > 0.382 && at < 0.618,
    `The entry stands at ${percentText(at, 0)} of the range of ${rungText(rung)}.`,
  );
}

function meanLine({ mean, atr, direction }: CheckFacts, first: OrderFigures | undefined): CheckLine {
  if (!first) return unknown("mean", NO_ENTRY);
  if (mean === undefined || !atr) return unknown("mean", "There are no 20 bars yet.");
  const away = (first.entry - mean) / atr;
  const against = (direction === "long" ? away : -away) > 2;
  return line(
    "mean",
    against,
    `The entry stands ${away.toFixed(1).replace("-", "\u2212")} ATR from the average of 20.`,
  );
}

function stopLines({ atr }: CheckFacts, first: OrderFigures | undefined): CheckLine[] {
  if (!first || !atr) return [unknown("wideStop", first ? "There is no ATR yet." : "Its stop is not known yet.")];
  const wide = Math.abs(first.entry - first.stop.price) / atr;
  const said = `The stop stands ${wide.toFixed(1)} ATR from the entry.`;
  return [line("wideStop", wide > 3, said), line("noise", wide < 0.5, said)];
}

function rewardLine({ figures: { blended, waitsFor }, leastReward = 1 }: CheckFacts): CheckLine {
  if (blended === undefined)
    return unknown("reward", waitsFor === undefined ? "Not known yet." : `Known with step ${waitsFor}.`);
  return line(
    "reward",
    blended < Math.max(1, leastReward) - 1e-9,
    `Reward to risk is ${blended.toFixed(2)} : 1${waitsFor === undefined ? "" : ", about"}` +
      (blended < leastReward - 1e-9 && leastReward !== 1 ? `; below ${leastReward} it is passed by.` : "."),
  );
}

function calendarLines({ events, holidays, halfDays }: CheckFacts): CheckLine[] {
  const heavy = events.filter(({ kind, impact }) => kind === "expiry" || (kind !== "holiday" && impact === 3));
  const together = grouped(heavy).filter((group) => group.length > 1);
  const named = heavy.slice(0, 3).map(({ title }) => title);
  const more = heavy.length > 3 ? ` and ${heavy.length - 3} more` : "";
  const groups = together.length > 0 ? `; ${countText(together.length, "time")} several at once` : "";
  const closed = [
    ...(holidays > 0 ? [countText(holidays, "holiday")] : []),
    ...(halfDays > 0 ? [countText(halfDays, "half day")] : []),
  ];
  return [
    line("events", heavy.length > 0, heavy.length > 0 ? `${named.join(", ")}${more}${groups}.` : "None is known."),
    line("closed", closed.length > 0, closed.length > 0 ? `${closed.join(" and ")} within its life.` : "None."),
  ];
}

function reachedLine({ close, direction }: CheckFacts, first: OrderFigures | undefined): CheckLine {
  const target = first?.targets.at(0);
  if (!target) return unknown("reached", "Its target is not known yet.");
  const against = direction === "long" ? close >= target.price : close <= target.price;
  return line("reached", against, against ? "Price stands at its first target or beyond." : "Not reached.");
}

function twiceLine({ others, direction }: CheckFacts): CheckLine {
  const same = others.filter(({ direction: other, correlation }) =>
    other === direction ? correlation >= TOGETHER : correlation <= -TOGETHER,
  );
  if (same.length === 0) return line("twice", false, "None is open.");
  const [{ market, title, correlation, n }] = same;
  const more = same.length > 1 ? ` and ${same.length - 1} more` : "";
  const r = correlation.toFixed(2).replace("-", "\u2212");
  return line("twice", true, `${market}: ${title}${more}; daily returns go together by ${r} (${n} days).`);
}
