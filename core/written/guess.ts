import { isBound, isLine, isReward, type BoundPrice, type Price } from "#core/conditions/price";
import type { Terms } from "#core/conditions/registry";
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
  switch (of.on) {
    case "touch":
      return of.band ? (of.band[0] + of.band[1]) / 2 : guess(of.price, steps);
    case "close":
    case "hold":
    case "sweep":
      return guess(of.price, steps);
    case "leave":
      return of.side === "above" ? of.band[1] + of.by : of.band[0] - of.by;
    case "shift":
      return of.inside && (of.inside[0] + of.inside[1]) / 2;
    case "candle":
      return of.at && (of.at[0] + of.at[1]) / 2;
    case "all":
    case "any":
      return of.of.map((one) => aboutOf(one, steps)).find((price) => price !== undefined);
    default:
      return undefined;
  }
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
  const needed = last && neededBy(last.when, steps, direction);
  if (!needed) return { price: close };
  const worse = direction === "long" ? Math.max : Math.min;
  const price = needed.isFrom && Number.isFinite(close) ? worse(needed.price, close) : needed.price;
  return price === close && price !== needed.price ? { price } : { price, step: steps.length };
}

/** The price at which a condition is met, or from which on in the trade's direction (`isFrom`). */
function neededBy(
  of: Terms,
  steps: readonly StepTerms[],
  direction: "long" | "short",
): { price: number; isFrom: boolean } | undefined {
  const long = direction === "long";
  switch (of.on) {
    case "close":
    case "hold":
    case "leave": {
      const price = aboutOf(of, steps);
      return price === undefined ? undefined : { price, isFrom: (of.side === "above") === long };
    }
    case "sweep": {
      const price = aboutOf(of, steps);
      return price === undefined ? undefined : { price, isFrom: false };
    }
    case "touch": {
      const price = of.band ? of.band[long ? 1 : 0] : guess(of.price, steps);
      return price === undefined ? undefined : { price, isFrom: false };
    }
    case "all":
    case "any":
      // The one that makes the dearest entry: what is shown is never better than what may come.
      return of.of
        .flatMap((one) => neededBy(one, steps, direction) ?? [])
        .sort((a, b) => (long ? b.price - a.price : a.price - b.price))[0];
    default:
      return undefined;
  }
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
