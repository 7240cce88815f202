import { closesOf, metBy, type Condition, type Judged, OF_BAR, neededFrom } from "#core/conditions/condition";
import { isPrevious, needsOfPrices, priceAt, readPrice, sayPrice, type Price } from "#core/conditions/price";
import { countText, rungWord } from "#core/marks/wording";

export interface SweepTerms {
  on: "sweep";
  side: "high" | "low";
  price: Price;
  /** Bars after the wick in which the close may come back. */
  within: number;
  rung?: string;
}

/**
 * Since a wick beyond: bars gone by since the last one, the furthest price since the first, and whether a close has
 * come back: the next wick begins anew then.
 */
type SweepState = { since: number; extreme: number; back?: true } | null;

/**
 * A wick strictly beyond a resting price and a close back on its inner side, on the same bar or one of the next. Every
 * close is judged for itself: within a combination several may come back from one wick.
 */
export const sweep: Condition<SweepTerms, SweepState> = {
  on: "sweep",
  read: (fields) => ({
    on: "sweep",
    side: fields.oneOf("side", ["high", "low"]),
    price: readPrice(fields, "price"),
    within: fields.whole("within", 0, 1000, 0),
    ...fields.rung(),
  }),
  needs: ({ rung, price }) => [{ rung, of: "closes" }, ...needsOfPrices([price])],
  start: () => null,
  next({ side, price, within, rung }, state, look) {
    const sign = side === "high" ? 1 : -1;
    const judged = closesOf(look, rung).map((close): Judged => {
      const { bar } = close;
      const at = priceAt(price, look, bar.time);
      if (at === undefined) return { by: metBy(close, rung) };
      const wick = side === "high" ? bar.high : bar.low;
      const isBeyond = sign * (wick - at) > look.tolerance;
      if (isBeyond) state = { since: 0, extreme: state && !state.back ? further(sign, state.extreme, wick) : wick };
      else if (state) state = { ...state, since: state.since + 1, extreme: further(sign, state.extreme, wick) };
      if (!state || state.since > within) {
        state = null;
        return { met: false, by: metBy(close, rung) };
      }
      const isBack = sign * (bar.close - at) <= look.tolerance;
      const by = { ...metBy(close, rung, at), swept: state.extreme };
      if (isBack) state = { ...state, back: true };
      return { met: isBack, by };
    });
    return { state, judged };
  },
  binds: () => ["sweptExtreme", "level", ...OF_BAR],
  about: ({ price }, at) => at(price),
  needed: ({ price }, at) => neededFrom(at(price), false),
  turns({ price, side }, at, beyond) {
    const level = at(price);
    const sign = side === "high" ? 1 : -1;
    return level === undefined ? [] : [level + sign * beyond, level - sign * beyond];
  },
  say: ({ side, price, within, rung }, market) =>
    `price sweeps ${isPrevious(price) ? "" : `the ${side} `}${sayPrice(price, market)} ` +
    `and a ${rungWord(rung)} closes back` +
    (within > 0 ? ` within ${countText(within, "bar")}` : ""),
};

function further(sign: number, a: number, b: number): number {
  return sign > 0 ? Math.max(a, b) : Math.min(a, b);
}
