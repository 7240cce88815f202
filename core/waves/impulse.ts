import { statementsOf, type Statement } from "#core/waves/statements";
import { priceRules, STRICT, type RuleLine } from "#core/waves/rules";
import { targetsOf, type WaveTarget } from "#core/waves/targets";
import { directionOf, type LengthScale, type Pivot } from "#core/waves/wave";

export interface ImpulseReading {
  direction: "up" | "down";
  /** Wave in progress, 1 to 5; 6 when all five are labelled. */
  wave: number;
  rules: RuleLine[];
  statements: Statement[];
  projections: WaveTarget[];
}

/**
 * Reads 1 to 6 pivots labelled 0 to 5 as an impulse. With one pivot nothing is asserted yet. Prices must be above 0 for
 * log.
 */
export function readImpulse(pivots: readonly Pivot[], scale: LengthScale = "arithmetic"): ImpulseReading {
  const wave = { pattern: "impulse" as const, pivots };
  const options = { ...STRICT, scale };
  return {
    direction: directionOf(pivots) > 0 ? "up" : "down",
    wave: pivots.length,
    rules: priceRules(wave, options),
    statements: pivots.length > 1 ? statementsOf(wave, options) : [],
    projections: pivots.length > 1 ? targetsOf(wave, options) : [],
  };
}
