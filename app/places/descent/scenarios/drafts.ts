import type { Area } from "#core/areas/areas";
import type { MarketFacts } from "#core/marks/kind";
import { bandText } from "#core/marks/wording";
import type { CountScenario } from "#core/scenarios/fromCount";
import { DAY } from "#core/time/dates";
import { termsWith } from "#core/written/ready/ground";
import { setOf } from "#core/written/sets";
import { emptyWritten, type Written } from "#core/written/written";
import { toTick } from "#core/series/tick";

/** A scenario lasts this long unless something else is said. */
const LIFE = 14 * DAY;

export const newDraft = (now: number): Written => emptyWritten(crypto.randomUUID(), now + LIFE);

/** A new scenario among those of a market: an alternate where one is preferred, with the weight that is left. */
export function amongOthers(draft: Written, others: readonly Written[]): Written {
  const { neither } = setOf(others);
  const isTaken = others.some(({ role }) => role === "preferred");
  return {
    ...draft,
    role: isTaken ? "alternate" : draft.role,
    weight: Math.max(0, Math.min(draft.weight, neither)),
  };
}

/** Beyond an area a stop stands by this share of ATR (definition our own). */
const BEYOND = 0.25;

/** What an area says of a scenario: touched and back from it, beyond its far edge it is wrong. */
export function draftAt(
  { bottom, top }: Area,
  { price, atr, rung, now }: { price: number; atr: number; rung: string; now: number },
  market: MarketFacts,
): Written {
  const long = (bottom + top) / 2 <= price;
  const grid = (value: number) => toTick(value, market.tick, market.decimals);
  const [near, far] = long ? [top, bottom - BEYOND * atr] : [bottom, top + BEYOND * atr];
  const band: [number, number] = [grid(bottom), grid(top)];
  const draft = newDraft(now);
  const terms = termsWith(
    long ? "long" : "short",
    {
      if: [
        { when: { on: "touch", band } },
        { when: { on: "close", side: long ? "above" : "below", price: grid(near), rung }, within: 20 },
      ],
      wrong: grid(far),
    },
    { entry: { order: "limit", price: grid(near) }, stop: grid(far) },
  );
  return {
    ...draft,
    title: `Back from ${bandText({ bottom, top }, market)}`,
    terms: { ...terms, expires: draft.terms.expires },
  };
}

/** What a count asks for: at its price, or at the next open; wrong where the count dies. */
export function draftFromCount(
  asks: CountScenario,
  count: string,
  { rung, now }: { rung: string; now: number },
  market: MarketFacts,
  alternate: boolean,
): Written {
  const grid = (value: number) => toTick(value, market.tick, market.decimals);
  const { direction, title, premise, order, entry, stop, invalidation, targets } = asks;
  const draft = newDraft(now);
  const long = direction === "long";
  const terms = termsWith(
    direction,
    {
      if:
        order === "limit"
          ? [{ when: { on: "touch", price: grid(entry) } }]
          : [{ when: { on: "close", side: long ? "above" : "below", price: grid(stop), rung } }],
      wrong: grid(invalidation),
    },
    {
      entry: order === "limit" ? { order, price: grid(entry) } : { order: "market", price: grid(entry) },
      stop: grid(stop),
      targets: targets.map((price) => ({ price: grid(price), share: 1 / targets.length })),
    },
  );
  return {
    ...draft,
    title: title.slice(0, 80),
    premise,
    role: alternate ? "alternate" : "preferred",
    terms: { ...terms, expires: draft.terms.expires },
    restsOn: count,
  };
}
