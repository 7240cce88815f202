import type { MarketFacts } from "#core/marks/kind";
import { isSeveral, legTerms, type WholeTerms } from "#core/scenarios/legs";
import type { ScenarioTerms } from "#core/scenarios/terms";
import { guess, guessTarget, isKnown, marketEntry, waitsFor } from "#core/written/guess";

/** A price of a scenario against its entry. */
export interface PriceFigures {
  price: number;
  /** A guess: what a step has yet to bind. */
  about: boolean;
  /** From the entry, in the direction of the trade: share of the entry's price, pips, ATR, multiples of the risk. */
  percent: number;
  pips: number;
  atr: number | undefined;
  r: number;
}

export interface OrderFigures {
  /** Share of the risk. */
  risk: number;
  entry: number;
  about: boolean;
  /** Of an order at the market: the step whose price it is reckoned from. */
  neededBy?: number;
  stop: PriceFigures;
  targets: (PriceFigures & { share: number })[];
  /** Reward to risk over its targets by their shares; `undefined` while one of them is unknown. */
  blended: number | undefined;
  /** Units of the market to take, where an account is given. */
  size: number | undefined;
}

export interface WrittenFigures {
  /** Orders whose entry and stop are known, or can be guessed, in their order; `undefined` where they cannot. */
  orders: (OrderFigures | undefined)[];
  /** Reward to risk of all of it, by the share of the risk of each. */
  blended: number | undefined;
  /** The first step that a price waits for, where one does. */
  waitsFor: number | undefined;
}

/** What is put at risk. */
export interface AccountRisk {
  /** Size of the account in the market's currency, and the share of it that is risked. */
  account: number;
  share: number;
  /** What one unit of the market makes when price moves by 1. */
  pointValue: number;
}

/** Reward to risk, distances and size of a scenario, from its prices as far as they are known. */
export function figuresOf(
  whole: WholeTerms,
  market: Pick<MarketFacts, "pip">,
  { close, atr, account }: { close: number; atr?: number | undefined; account?: AccountRisk | undefined },
): WrittenFigures {
  const shares = isSeveral(whole) ? whole.legs.map(({ risk }) => risk) : [1];
  const terms = isSeveral(whole) ? whole.legs.map((leg) => legTerms(whole, leg)) : [whole];
  const orders = terms.map((one, i) => orderFigures(one, shares[i], market, { close, atr, account }));
  const known = orders.every((one) => one?.blended !== undefined);
  const waits = terms.flatMap(({ entry, stop, targets }) =>
    [entry.price, stop, ...targets.map(({ price }) => price)].flatMap((price) => waitsFor(price) ?? []),
  );
  return {
    orders,
    blended: known ? orders.reduce((sum, one) => sum + (one?.risk ?? 0) * (one?.blended ?? 0), 0) : undefined,
    waitsFor: waits.length > 0 ? Math.max(...waits) : undefined,
  };
}

function orderFigures(
  terms: ScenarioTerms,
  share: number,
  { pip }: Pick<MarketFacts, "pip">,
  { close, atr, account }: { close: number; atr?: number | undefined; account?: AccountRisk | undefined },
): OrderFigures | undefined {
  const sign = terms.direction === "long" ? 1 : -1;
  const { entry: asked, stop: stopAsked, if: steps } = terms;
  const filled = asked.price === undefined ? marketEntry(steps, terms.direction, close) : undefined;
  const entry = filled ? filled.price : guess(asked.price, steps);
  const stop = guess(stopAsked, steps);
  if (entry === undefined || stop === undefined) return undefined;
  const risk = sign * (entry - stop);
  if (!(risk > 0)) return undefined;
  const figures = (price: number, about: boolean): PriceFigures => {
    const gain = sign * (price - entry);
    return {
      price,
      about,
      percent: gain / entry,
      pips: gain / pip,
      atr: atr ? gain / atr : undefined,
      r: gain / risk,
    };
  };
  const targets = terms.targets.flatMap(({ price, share: part }) => {
    const at = guessTarget(price, steps, entry, stop);
    return at === undefined ? [] : [{ ...figures(at, !isKnown(price)), share: part }];
  });
  const about = !isKnown(asked.price);
  return {
    risk: share,
    entry,
    about,
    ...(filled?.step === undefined ? {} : { neededBy: filled.step }),
    stop: figures(stop, !isKnown(stopAsked)),
    targets,
    blended:
      targets.length === terms.targets.length
        ? targets.reduce((sum, { r, share: part }) => sum + r * part, 0)
        : undefined,
    size: account && (account.account * account.share * share) / (risk * account.pointValue),
  };
}
