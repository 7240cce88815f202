import {
  boundPrice,
  isBound,
  isLine,
  isPrevious,
  isReward,
  lineAt,
  type BoundPrice,
  type LinePrice,
  type PreviousPrice,
  type Price,
  type RewardPrice,
} from "#core/conditions/price";
import type { Met } from "#core/conditions/condition";
import type { Instant } from "#core/observe/instant";
import type { Moment } from "#core/observe/tape";
import type { Orders } from "#core/scenarios/trade";
import type { ScenarioTerms } from "#core/scenarios/terms";

/** Prices that a step has made known, by their field, each with when. */
export type BoundPrices = Readonly<Record<string, { price: number; knownAt: Instant }>>;

/** The prices of a scenario by their field: "entry.price", "stop", "targets[0].price", "wrong". */
export function pricesOf({ entry, stop, targets, wrong }: ScenarioTerms): [field: string, price: Price][] {
  return [
    ...(entry.price === undefined ? [] : [["entry.price", entry.price] as [string, Price]]),
    ["stop", stop],
    ...targets.map(({ price }, i): [string, Price] => [`targets[${i}].price`, price]),
    ...(wrong === undefined ? [] : [["wrong", wrong] as [string, Price]]),
  ];
}

/**
 * Binds the prices whose step is the last one that was met. `unbound` names the first that cannot be: its step has left
 * no such thing.
 */
export function bindStep(
  terms: ScenarioTerms,
  before: BoundPrices,
  met: readonly Met[],
  knownAt: Instant,
  trade: { sign: 1 | -1; tick: number },
  previous: (price: PreviousPrice) => number | undefined = () => undefined,
): { bound: BoundPrices; unbound?: string } {
  const bound = { ...before };
  const isLast = met.length === terms.if.length;
  const planned = isLast ? plannedPrices(terms, before, met, trade) : undefined;
  for (const [field, price] of pricesOf(terms)) {
    const isOfTrade = isReward(price) || isPrevious(price);
    if (isOfTrade ? !isLast : !isBound(price) || price.step !== met.length) continue;
    const value = !isOfTrade
      ? boundPrice(price as BoundPrice, met.at(-1), trade)
      : isReward(price)
        ? planned && rewardAt(price, planned)
        : planned && aheadOf(planned.entry, previous(price), trade.sign);
    if (value === undefined) return { bound, unbound: field };
    bound[field] = { price: value, knownAt };
  }
  return { bound };
}

/** Entry and stop as they are planned when the last step is met; at the next open the close stands for the entry. */
function plannedPrices(
  { entry, stop }: ScenarioTerms,
  before: BoundPrices,
  met: readonly Met[],
  trade: { sign: 1 | -1; tick: number },
): { entry: number; stop: number } | undefined {
  const value = (field: string, price: Price): number | undefined => {
    if (typeof price === "number") return price;
    if (!isBound(price)) return undefined;
    return price.step < met.length ? before[field]?.price : boundPrice(price, met.at(-1), trade);
  };
  const at = entry.price === undefined ? met.at(-1)?.close : value("entry.price", entry.price);
  const from = value("stop", stop);
  return at === undefined || from === undefined ? undefined : { entry: at, stop: from };
}

/** A price that lies where the trade is going; one that is behind it already is no target. */
const aheadOf = (entry: number, price: number | undefined, sign: 1 | -1) =>
  price !== undefined && sign * (price - entry) > 0 ? price : undefined;

const rewardAt = ({ r }: RewardPrice, { entry, stop }: { entry: number; stop: number }) => entry + r * (entry - stop);

type Fixed = Pick<Orders, "sign" | "order" | "breakEven" | "cost" | "through" | "tolerance">;

/** What a scenario's prices are on one bar after the other. */
export class OrdersOn {
  readonly hasLines: boolean;
  /** Without lines they change with what is bound alone. */
  private last: { bound: BoundPrices; orders: Orders } | undefined;

  constructor(
    private readonly terms: ScenarioTerms,
    private readonly fixed: Fixed,
  ) {
    this.hasLines = pricesOf(terms).some(([, price]) => isLine(price));
  }

  /** The same where no bar changes them: without lines. */
  fixedAt(bound: BoundPrices): Orders | undefined {
    if (this.hasLines) return undefined;
    return this.last?.bound === bound ? this.last.orders : this.orders(bound, () => NaN);
  }

  /** A price that is not known yet is NaN; a price that is wrong beyond, or an entry, is then missing. */
  at(bound: BoundPrices, moment: Moment): Orders {
    if (!this.hasLines && this.last?.bound === bound) return this.last.orders;
    return this.orders(bound, (line) => lineAt(line, moment, moment.told.time) ?? NaN);
  }

  private orders(bound: BoundPrices, along: (line: LinePrice) => number): Orders {
    const { entry, stop, targets, wrong } = this.terms;
    const value = (field: string, price: Price): number => {
      if (typeof price === "number") return price;
      if (isLine(price)) return along(price);
      return bound[field]?.price ?? NaN;
    };
    const optional = (field: string, price: Price | undefined): number | undefined => {
      const known = price === undefined ? NaN : value(field, price);
      return Number.isNaN(known) ? undefined : known;
    };
    const [at, beyond] = [optional("entry.price", entry.price), optional("wrong", wrong)];
    const orders: Orders = {
      ...this.fixed,
      ...(at === undefined ? {} : { entry: at }),
      stop: value("stop", stop),
      ...(isLine(stop) ? { stopMoves: true } : {}),
      targets: targets.map(({ price, share }, i) => ({ price: value(`targets[${i}].price`, price), share })),
      ...(beyond === undefined ? {} : { wrong: beyond }),
    };
    this.last = { bound, orders };
    return orders;
  }

  /** Whether everything an order needs is known. */
  isKnown({ entry, stop, targets }: Orders): boolean {
    const wanted = this.terms.entry.price === undefined ? 0 : entry;
    return wanted !== undefined && [stop, ...targets.map(({ price }) => price)].every(Number.isFinite);
  }
}
