import { judgeEach, type Condition, OF_BAR, middleOf, neededFrom } from "#core/conditions/condition";
import { judgeAt, needsOfPrices, readPrice, sayPrice, type Price } from "#core/conditions/price";
import { bandText } from "#core/marks/wording";

export interface TouchTerms {
  on: "touch";
  /** A price, or [bottom, top]: one of the two. */
  price?: Price;
  band?: readonly [number, number];
}

/** A wick that reaches a price or a band; a gap over it is none. Judged by what is told. */
export const touch: Condition<TouchTerms, null> = {
  on: "touch",
  read(fields) {
    if (fields.has("price") === fields.has("band")) fields.fault("price", `is wanted, or a "band", not both`);
    return fields.has("price")
      ? { on: "touch", price: readPrice(fields, "price") }
      : { on: "touch", band: fields.band("band") };
  },
  needs: ({ price }) => needsOfPrices([price]),
  start: () => null,
  next({ price, band: [bottom, top] = [NaN, NaN] }, _state, look) {
    const { tolerance } = look;
    if (price !== undefined)
      return judgeAt(
        look,
        undefined,
        price,
        ({ bar: { high, low } }, at) => low <= at + tolerance && high >= at - tolerance,
      );
    return judgeEach(look, undefined, ({ bar: { high, low } }) => low <= top + tolerance && high >= bottom - tolerance);
  },
  binds: () => ["level", ...OF_BAR],
  about: ({ price, band }, at) => (band ? middleOf(band) : at(price)),
  needed: ({ price, band }, at, long) => neededFrom(band ? band[long ? 1 : 0] : at(price), false),
  turns({ price, band }, at) {
    const level = band ? middleOf(band) : at(price);
    return level === undefined ? [] : [level];
  },
  say: ({ price, band: [bottom, top] = [0, 0] }, market) =>
    `price touches ${price === undefined ? bandText({ bottom, top }, market) : sayPrice(price, market)}`,
};
