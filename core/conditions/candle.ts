import { judgeEach, type Condition, OF_BAR, middleOf } from "#core/conditions/condition";
import { bandText, rungWord } from "#core/marks/wording";
import type { CandleSeen } from "#core/candles/candles";
import type { Candle } from "#core/structure/candles";

/** One of a word, or of a name and the way it speaks. */
const PATTERNS = [
  ...["indecision", "engulfing up", "engulfing down", "engulfing", "either"],
  ...["pin up", "pin down", "inside", "outside up", "outside down"],
  ...["star up", "star down", "three up", "three down", "shaven up", "shaven down"],
] as const satisfies readonly string[];

/** Bars a candle is judged with, besides its own. */
const backOf = (pattern: string) => (/^(star|three)/.test(pattern) ? 2 : 1);

export interface CandleTerms {
  on: "candle";
  /**
   * "engulfing" of either way; "either" is an indecision or an engulfing candle; others as `core/candles/` has them.
   */
  pattern: string;
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
  needs: ({ rung, pattern }) => [{ rung, of: "candles", ...(backOf(pattern) > 1 ? { back: backOf(pattern) } : {}) }],
  start: () => null,
  next({ pattern, rung, at }, _state, look) {
    return judgeEach(look, rung, ({ bar: { close }, candle: is, candles }) => {
      const isThere = !at || (close >= at[0] - look.tolerance && close <= at[1] + look.tolerance);
      return isThere && (isCandle(is, pattern) || isSeen(candles, pattern));
    });
  },
  binds: () => OF_BAR,
  about: ({ at }) => at && middleOf(at),
  needed: () => undefined,
  turns: () => [],
  say: ({ pattern, rung, at }, market) =>
    `a ${rungWord(rung)} closes as ` +
    says(pattern) +
    (at ? ` at ${bandText({ bottom: at[0], top: at[1] }, market)}` : ""),
};

const NAMES: Readonly<Record<string, string>> = {
  either: "an indecision or engulfing candle",
  inside: "an inside bar",
  "star up": "a morning star",
  "star down": "an evening star",
  "three up": "the third of three rising candles",
  "three down": "the third of three falling candles",
  "shaven up": "a candle that opened on its low and closed on its high",
  "shaven down": "a candle that opened on its high and closed on its low",
};
const says = (pattern: string) => NAMES[pattern] ?? `${/^[aeiou]/.test(pattern) ? "an" : "a"} ${pattern} candle`;

/** Whether a candle of a name, and of a way where one is asked for, is among those seen. */
function isSeen(candles: readonly CandleSeen[] | undefined, pattern: string): boolean {
  const [name, way] = pattern.split(" ");
  if (name === "indecision" || name === "engulfing") return false;
  return candles?.some((one) => one.name === name && (way === undefined || one.way === way)) ?? false;
}

export function isCandle(is: Candle | undefined, pattern: CandleTerms["pattern"]): boolean {
  return is !== undefined && (pattern === "either" || is.startsWith(pattern));
}
