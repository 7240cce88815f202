import { type Condition, OF_BAR, neededFrom } from "#core/conditions/condition";
import { judgeAt, needsOfPrices, readPrice, sayPrice, type Price } from "#core/conditions/price";
import { rungWord } from "#core/marks/wording";

export interface CloseTerms {
  on: "close";
  side: "above" | "below";
  price: Price;
  rung?: string;
}

/** A close strictly beyond a price. */
export const close: Condition<CloseTerms, null> = {
  on: "close",
  read: (fields) => ({
    on: "close",
    side: fields.oneOf("side", ["above", "below"]),
    price: readPrice(fields, "price"),
    ...fields.rung(),
  }),
  needs: ({ rung, price }) => [{ rung, of: "closes" }, ...needsOfPrices([price])],
  start: () => null,
  next({ side, price, rung }, _state, look) {
    const sign = side === "above" ? 1 : -1;
    return judgeAt(look, rung, price, ({ bar }, at) => {
      return sign * (bar.close - at) > look.tolerance;
    });
  },
  binds: () => ["level", ...OF_BAR],
  about: ({ price }, at) => at(price),
  needed: ({ price, side }, at, long) => neededFrom(at(price), (side === "above") === long),
  turns({ price, side }, at, beyond) {
    const level = at(price);
    return level === undefined ? [] : [level + (side === "above" ? beyond : -beyond)];
  },
  say: ({ side, price, rung }, market) => `a ${rungWord(rung)} closes ${side} ${sayPrice(price, market)}`,
};
