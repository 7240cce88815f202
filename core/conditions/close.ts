import { judgeEach, type Condition } from "#core/conditions/condition";
import { priceText, rungWord } from "#core/marks/wording";

export interface CloseTerms {
  on: "close";
  side: "above" | "below";
  price: number;
  rung?: string;
}

/** A close strictly beyond a price. */
export const close: Condition<CloseTerms, null> = {
  on: "close",
  read: (fields) => ({
    on: "close",
    side: fields.oneOf("side", ["above", "below"]),
    price: fields.price("price"),
    ...fields.rung(),
  }),
  needs: ({ rung }) => [{ rung, of: "closes" }],
  start: () => null,
  next({ side, price, rung }, _state, look) {
    const sign = side === "above" ? 1 : -1;
    return judgeEach(look, rung, ({ bar }) => sign * (bar.close - price) > look.tolerance);
  },
  say: ({ side, price, rung }, market) => `a ${rungWord(rung)} closes ${side} ${priceText(price, market)}`,
  prices: ({ price }) => [price],
};
