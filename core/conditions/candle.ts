import { judgeEach, type Condition, OF_BAR, middleOf } from "#core/conditions/condition";
import { bandText, rungWord } from "#core/marks/wording";
import type { Candle } from "#core/structure/candles";

const PATTERNS = ["indecision", "engulfing up", "engulfing down", "engulfing", "either"] as const;

export interface CandleTerms {
  on: "candle";
  /** "engulfing" of either way; "either" is an indecision or an engulfing candle. */
  pattern: (typeof PATTERNS)[number];
  rung?: string;
  /** Where it must close, ends included. */
  at?: readonly [number, number];
}

/** A candle of a rung that is what was asked for and closes there. */
export const candle: Condition<CandleTerms, null> = {
  on: "candle",
  read: (fields) => ({
    on: "candle",
    pattern: fields.oneOf("pattern", PATTERNS),
    ...fields.rung(),
    ...(fields.has("at") ? { at: fields.band("at") } : {}),
  }),
  needs: ({ rung }) => [{ rung, of: "candles" }],
  start: () => null,
  next({ pattern, rung, at }, _state, look) {
    return judgeEach(look, rung, ({ bar: { close }, candle: is }) => {
      const isThere = !at || (close >= at[0] - look.tolerance && close <= at[1] + look.tolerance);
      return isThere && isCandle(is, pattern);
    });
  },
  binds: () => OF_BAR,
  about: ({ at }) => at && middleOf(at),
  needed: () => undefined,
  turns: () => [],
  say: ({ pattern, rung, at }, market) =>
    `a ${rungWord(rung)} closes as ` +
    `${pattern === "either" ? "an indecision or engulfing candle" : `an ${pattern} candle`}` +
    (at ? ` at ${bandText({ bottom: at[0], top: at[1] }, market)}` : ""),
};

export function isCandle(is: Candle | undefined, pattern: CandleTerms["pattern"]): boolean {
  return is !== undefined && (pattern === "either" || is.startsWith(pattern));
}
