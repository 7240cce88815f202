import { closesOf, metBy, type Condition, type Judged, OF_BAR, neededFrom } from "#core/conditions/condition";
import { needsOfPrices, priceAt, readPrice, sayPrice, type Price } from "#core/conditions/price";
import { countText, rungWord } from "#core/marks/wording";

export interface HoldTerms {
  on: "hold";
  side: "above" | "below";
  price: Price;
  bars: number;
  rung?: string;
}

/** So many closes in a row strictly beyond a price. State: how many there are so far. */
export const hold: Condition<HoldTerms, number> = {
  on: "hold",
  read: (fields) => ({
    on: "hold",
    side: fields.oneOf("side", ["above", "below"]),
    price: readPrice(fields, "price"),
    bars: fields.whole("bars", 1, 1000),
    ...fields.rung(),
  }),
  needs: ({ rung, price }) => [{ rung, of: "closes" }, ...needsOfPrices([price])],
  start: () => 0,
  next({ side, price, bars, rung }, state, look) {
    const sign = side === "above" ? 1 : -1;
    const judged = closesOf(look, rung).map((close): Judged => {
      const at = priceAt(price, look, close.bar.time);
      state = at !== undefined && sign * (close.bar.close - at) > look.tolerance ? state + 1 : 0;
      return { met: state >= bars, by: metBy(close, rung, at) };
    });
    return { state, judged };
  },
  binds: () => ["level", ...OF_BAR],
  about: ({ price }, at) => at(price),
  needed: ({ price, side }, at, long) => neededFrom(at(price), (side === "above") === long),
  turns({ price, side }, at, beyond) {
    const level = at(price);
    const sign = side === "above" ? 1 : -1;
    return level === undefined ? [] : [level + sign * beyond, level + sign * beyond * 0.4];
  },
  say: ({ side, price, bars, rung }, market) =>
    `${countText(bars, `${rungWord(rung)}`, `${rungWord(rung)}s`)} in a row close ${side} ${sayPrice(price, market)}`,
};
