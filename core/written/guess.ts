import { isBound, isLine, isReward, type BoundPrice, type Price } from "#core/conditions/price";
import { conditionOf, type Terms } from "#core/conditions/registry";
import type { StepTerms } from "#core/conditions/steps";

/**
 * About where a price will be, before anything has been met: a number as it is, a line at its last anchor, a bound
 * price near the price its step is about; `undefined` where nothing of that is known.
 */
export function guess(price: Price | undefined, steps: readonly StepTerms[]): number | undefined {
  if (price === undefined || typeof price === "number") return price;
  if (isLine(price)) return price.line[1].price;
  return isBound(price) ? guessBound(price, steps) : undefined;
}

function guessBound({ bind, step }: BoundPrice, steps: readonly StepTerms[]): number | undefined {
  const of = steps.at(step - 1)?.when;
  if (!of) return undefined;
  // What a shift comes from, and the gap it leaves, is near what was swept or touched before it.
  const isNear = of.on === "shift" && bind !== "brokenSwing" && step > 1;
  return aboutOf((isNear ? steps.at(step - 2)?.when : undefined) ?? of, steps);
}

/** The price a condition is about; of a band its middle. */
export function aboutOf(of: Terms, steps: readonly StepTerms[]): number | undefined {
  return conditionOf(of).about(of, (price) => guess(price, steps));
}

/**
 * About where an order at the market is filled: no better than the price that its last step needs, nor than price
 * stands where that is beyond it already; `step` where it is a step that says so. `NaN` where nothing is known.
 */
export function marketEntry(
  steps: readonly StepTerms[],
  direction: "long" | "short",
  close: number,
): { price: number; step?: number } {
  const last = steps.at(-1);
  const at = (price: Price | undefined) => guess(price, steps);
  const needed = last && conditionOf(last.when).needed(last.when, at, direction === "long");
  if (!needed) return { price: close };
  const worse = direction === "long" ? Math.max : Math.min;
  const price = needed.isFrom && Number.isFinite(close) ? worse(needed.price, close) : needed.price;
  return price === close && price !== needed.price ? { price } : { price, step: steps.length };
}

/** The same of a target, which may be counted from the entry and the stop. */
export function guessTarget(
  price: Price,
  steps: readonly StepTerms[],
  entry: number | undefined,
  stop: number | undefined,
): number | undefined {
  if (!isReward(price)) return guess(price, steps);
  return entry === undefined || stop === undefined ? undefined : entry + price.r * (entry - stop);
}

/** Whether a price is known before anything has been met. */
export const isKnown = (price: Price | undefined): price is number => typeof price === "number";

/** The step a price waits for, where it waits for one. */
export const waitsFor = (price: Price | undefined): number | undefined =>
  price !== undefined && typeof price === "object" && isBound(price) ? price.step : undefined;
