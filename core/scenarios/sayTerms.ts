import { sayPrice, type Price } from "#core/conditions/price";
import { conditionOf, saySteps, type Terms } from "#core/conditions/registry";
import type { MarketFacts } from "#core/marks/kind";
import { countText, percentText, rungText } from "#core/marks/wording";
import { isSeveral, legTerms, type SeveralState, type WholeState, type WholeTerms } from "#core/scenarios/legs";
import type { ScenarioState } from "#core/scenarios/run";
import type { ScenarioTerms } from "#core/scenarios/terms";

type Decimals = Pick<MarketFacts, "decimals">;

/** How instants are written where it is read. */
export type InstantText = (instant: number) => string;

/** A scenario as one paragraph to be read aloud, in the present; made of its structure alone. */
export function sayTerms(terms: WholeTerms, market: Decimals, instant: InstantText): string {
  if (!isSeveral(terms))
    return [sayWay(terms, market), ...sayOrder(terms, market), ...sayEnd(terms, market, instant)].join(" ");
  const legs = terms.legs.map((leg, i) => {
    const { after, risk } = leg;
    const follows = after ? `, after leg ${after.leg} ${HAPPENED[after.event]}` : "";
    const own = legTerms({ ...terms, if: [] }, leg);
    const steps = leg.if.length > 0 ? `if ${saySteps(leg.if, market)}, ` : "";
    const head = `Leg ${i + 1}, ${percentText(risk, 0)} of the risk${follows}: ${steps}${verbOf(own, market)}.`;
    return [head, ...sayOrder(own, market)].join(" ");
  });
  return [sayConditions(terms, market), ...legs, ...sayEnd(terms, market, instant)].filter(Boolean).join(" ");
}

const HAPPENED = { entered: "is entered", target: "reaches a target", stopped: "is stopped" } as const;
const signOf = ({ direction }: Pick<ScenarioTerms, "direction">) => (direction === "long" ? 1 : -1);
const big = (text: string) => `${text.slice(0, 1).toUpperCase()}${text.slice(1)}`;

function sayConditions({ while: holds, if: steps }: Pick<ScenarioTerms, "while" | "if">, market: Decimals): string {
  const parts = [
    ...(holds.length > 0 ? [`while ${sayAll(holds, market)}`] : []),
    ...(steps.length > 0 ? [`if ${saySteps(steps, market)}`] : []),
  ];
  return parts.length > 0 ? `${big(parts.join(", "))}.` : "";
}

function sayWay(terms: ScenarioTerms, market: Decimals): string {
  const before = sayConditions(terms, market).replace(/\.$/, "");
  const verb = verbOf(terms, market);
  return before ? `${before}, ${verb}.` : `${big(verb)}.`;
}

function sayAll(of: readonly Terms[], market: Decimals): string {
  return of.map((one) => conditionOf(one).say(one, market)).join(" and ");
}

function verbOf(terms: ScenarioTerms, market: Decimals): string {
  const verb = terms.direction === "long" ? "buy" : "sell";
  const { order, price } = terms.entry;
  if (order === "market" || price === undefined) return `${verb} the next open`;
  return `${verb} at ${said(price, terms, market)} by ${order}`;
}

const said = (price: Price, terms: Pick<ScenarioTerms, "direction">, market: Decimals) =>
  sayPrice(price, market, signOf(terms));

function sayOrder(terms: ScenarioTerms, market: Decimals): string[] {
  const { stop, targets, breakEven, trail } = terms;
  const moves = [
    ...(breakEven
      ? ["after" in breakEven ? "to the entry after the first target" : `to the entry once it is ${breakEven.r} R up`]
      : []),
    ...(trail ? [`then along the ${trail.rung ? `${rungText(trail.rung).toLowerCase()} ` : ""}structure`] : []),
  ];
  const aims = targets.map(({ price, share }, i) => {
    const part = i > 0 && i === targets.length - 1 ? "the rest" : shareText(share);
    return `${part} at ${said(price, terms, market)}`;
  });
  return [`Stop ${[said(stop, terms, market), ...moves].join(", ")}.`, `Take ${aims.join(", ")}.`];
}

/** "half", "a third", "40 %". */
function shareText(share: number): string {
  const names: [number, string][] = [
    [1, "all"],
    [1 / 2, "half"],
    [1 / 3, "a third"],
    [1 / 4, "a quarter"],
  ];
  return names.find(([value]) => Math.abs(value - share) < 1e-6)?.[1] ?? percentText(share, 0);
}

function sayEnd(
  terms: Omit<ScenarioTerms, "entry" | "stop" | "targets" | "breakEven">,
  market: Decimals,
  at: InstantText,
) {
  const { unless, wrong, expires, leastReward } = terms;
  return [
    ...(unless.length > 0
      ? [`Not if ${unless.map((one) => conditionOf(one).say(one, market)).join(", nor if ")}.`]
      : []),
    ...(leastReward === undefined ? [] : [`Not for less than ${leastReward} R.`]),
    ...(wrong === undefined ? [] : [`Wrong ${wrongText(terms, wrong, market)}.`]),
    ...(Number.isFinite(expires) ? [`Lapses on ${at(expires)}.`] : []),
  ];
}

/** Beyond which it is wrong: "below 391.20", or by the step the price comes with. */
export function wrongText(terms: Pick<ScenarioTerms, "direction">, wrong: Price, market: Decimals): string {
  return `${terms.direction === "long" ? "below" : "above"} ${said(wrong, terms, market)}`;
}

/** Beyond which it is wrong as it stands now: a price that a step has made known is told as the number it is. */
export function sayWrong(terms: WholeTerms, state: WholeState, market: Decimals): string | undefined {
  if (terms.wrong === undefined) return undefined;
  const legs = "legs" in state ? state.legs.flatMap((leg) => ("state" in leg ? [leg.state] : [])) : [state];
  const known = legs.flatMap(({ bound }) => bound?.wrong?.price ?? []).at(0);
  return wrongText(terms, typeof terms.wrong === "object" ? (known ?? terms.wrong) : terms.wrong, market);
}

/** Where a scenario of one leg or of several stands; without what would end it where that is told beside. */
export function sayWholeStanding(terms: WholeTerms, state: WholeState, market: Decimals, withWrong = true): string {
  if (!isSeveral(terms)) return sayStanding(terms, state as ScenarioState, market, withWrong);
  return (state as SeveralState).legs
    .map((leg, i) => {
      const own = terms.legs[i];
      if ("state" in leg) return `leg ${i + 1}: ${sayStanding(legTerms(terms, own), leg.state, market, withWrong)}`;
      if ("over" in leg) return `leg ${i + 1}: will not come`;
      return `leg ${i + 1}: waits until leg ${own.after?.leg ?? 1} ${HAPPENED[own.after?.event ?? "entered"]}`;
    })
    .join(". ");
}

/**
 * Where a scenario stands while it waits: "1 of 3 steps, waiting until a 1 h candle closes above 404.10; dies below
 * 391.20". A price that is bound already is told as the number it is.
 */
export function sayStanding(terms: ScenarioTerms, state: ScenarioState, market: Decimals, withWrong = true): string {
  const { phase, steps, bound = {} } = state;
  const price = (field: string, plain: Price) => (typeof plain === "object" ? (bound[field]?.price ?? plain) : plain);
  const { wrong, entry } = terms;
  const dies = wrong === undefined || !withWrong ? "" : `; dies ${wrongText(terms, price("wrong", wrong), market)}`;
  switch (phase) {
    case "waiting": {
      const met = steps.met.length;
      const next = conditionOf(terms.if[met].when).say(terms.if[met].when, market);
      const of = terms.if.length > 1 ? `${met} of ${countText(terms.if.length, "step")}, ` : "";
      return `${of}waiting until ${next}${dies}`;
    }
    case "armed":
      return entry.order === "market" || entry.price === undefined
        ? `triggered, entered at the next open${dies}`
        : `triggered, the order rests at ${said(price("entry.price", entry.price), terms, market)}${dies}`;
    case "open":
      return `open, stop ${said(state.trade?.stop ?? NaN, terms, market)}`;
    case "done":
      return "over";
  }
}
