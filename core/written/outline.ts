import { ConditionFault } from "#core/conditions/fields";
import type { Price } from "#core/conditions/price";
import { conditionOf } from "#core/conditions/registry";
import { isSeveral, legTerms, type WholeTerms } from "#core/scenarios/legs";
import type { ScenarioTerms } from "#core/scenarios/terms";
import { guess, guessTarget } from "#core/written/guess";
import { termsOfWritten } from "#core/written/read";
import { plainOf, type Written, type WrittenPrice } from "#core/written/written";

/** A price on a chart, by the field it stands in; `about` where it is a guess of what a step will bind. */
export interface OutlinePrice {
  /** "entry.price", "stop", "targets[0].price", "wrong", of the first order or of that one: "orders[1].stop". */
  field: string;
  what: "entry" | "stop" | "target" | "wrong";
  price: number;
  about: boolean;
}

/** A scenario as it is drawn: the way price is expected to take, and the prices that matter. */
export interface Outline {
  direction: "long" | "short";
  /** Turns in time, after where price stands. */
  path: number[];
  prices: OutlinePrice[];
}

/** How far beyond a price a close or a wick is drawn, as a share of the room between entry and stop. */
const BEYOND = 0.4;
/** That room where one of the two is unknown, as a share of a price. */
const SMALL = 0.002;

export function outlineOf(whole: WholeTerms): Outline {
  const orders = isSeveral(whole) ? whole.legs.map((leg) => legTerms(whole, leg)) : [whole];
  const [first] = orders;
  const prices = orders.flatMap((terms, i) => pricesOf(terms, i));
  const of = (field: string) => prices.find((one) => one.field === `orders[0].${field}`)?.price;
  const [entry, stop] = [of("entry.price"), of("stop")];
  const room =
    entry !== undefined && stop !== undefined && entry !== stop
      ? Math.abs(entry - stop)
      : SMALL * Math.abs(prices.at(0)?.price ?? 0);
  const turns = first.if.flatMap(({ when }) =>
    conditionOf(when).turns(when, (price) => guess(price, first.if), BEYOND * room),
  );
  const aims = first.targets.flatMap(({ price }) => guessTarget(price, first.if, entry, stop) ?? []);
  const path = [...turns, ...(entry === undefined ? [] : [entry]), ...aims];
  return { direction: whole.direction, path: path.filter((price, i) => i === 0 || price !== path[i - 1]), prices };
}

function pricesOf(terms: ScenarioTerms, order: number): OutlinePrice[] {
  const drawn = (field: string, what: OutlinePrice["what"], price: Price | undefined, at: number | undefined) =>
    at === undefined ? [] : [{ field, what, price: at, about: typeof price !== "number" }];
  const one = (field: string, what: OutlinePrice["what"], price: Price | undefined) =>
    drawn(field, what, price, guess(price, terms.if));
  const aim = (price: Price) =>
    guessTarget(price, terms.if, guess(terms.entry.price, terms.if), guess(terms.stop, terms.if));
  const own = (field: string) => `orders[${order}].${field}`;
  return [
    ...one(own("entry.price"), "entry", terms.entry.price),
    ...one(own("stop"), "stop", terms.stop),
    ...terms.targets.flatMap(({ price }, i) => drawn(own(`targets[${i}].price`), "target", price, aim(price))),
    ...(order === 0 ? one("wrong", "wrong", terms.wrong) : []),
  ];
}

/**
 * The outline of a scenario that is being written: while its terms cannot be followed yet, the prices that stand, and
 * no way.
 */
export function outlineOfWritten({ terms }: Pick<Written, "terms">): Outline {
  try {
    return outlineOf(termsOfWritten({ terms }));
  } catch (error) {
    if (!(error instanceof ConditionFault)) throw error;
  }
  const one = (field: string, what: OutlinePrice["what"], written: WrittenPrice | undefined): OutlinePrice[] => {
    const price = plainOf(written);
    return price === undefined ? [] : [{ field, what, price, about: false }];
  };
  const orders = terms.orders.flatMap(({ entry, stop, targets }, i) => [
    ...one(`orders[${i}].entry.price`, "entry", entry.price),
    ...one(`orders[${i}].stop`, "stop", stop),
    ...targets.flatMap(({ price }, n) => one(`orders[${i}].targets[${n}].price`, "target", price)),
  ]);
  return { direction: terms.direction, path: [], prices: [...orders, ...one("wrong", "wrong", terms.wrong)] };
}
