import type { Life, Mark, MarketFacts } from "#core/marks/kind";
import type { Scale } from "../scale.ts";
import type { Shape } from "../shapes.ts";

/** What a mark's drawing may know besides itself. */
export interface DrawContext {
  scale: Scale;
  market: MarketFacts;
  /**
   * Bar index of an instant on the rung shown; fractional between bars, past the end in the future's room. With a
   * price, where the mark is of a longer rung, the very bar of the rung shown whose high or low made it.
   */
  indexOf(time: number, price?: number): number;
  /** Index of the last bar: the future's room begins after it; its close, and ATR(14) there (0 while there is none). */
  last: number;
  close: number;
  atr: number;
  selected: boolean;
  /** "Week" when the mark was made on a higher rung than the one shown, otherwise empty. */
  origin: string;
  /** Pixels between the lines of a hatch: more where many marks stand. */
  hatchApart: number;
}

/** Draws one kind of mark; pure, so that the browser and the server draw the same. */
export type Draw<Props = Record<string, unknown>, State = unknown> = (
  mark: Mark<Props>,
  life: Life<State>,
  context: DrawContext,
) => Shape[];
