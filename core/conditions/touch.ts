import { judgeEach, type Condition } from "#core/conditions/condition";
import { bandText } from "#core/marks/wording";

export interface TouchTerms {
  on: "touch";
  /** [bottom, top]; a single price is a band without height. */
  band: readonly [number, number];
}

/** A wick that reaches a price or a band; a gap over it is none. Judged by what is told. */
export const touch: Condition<TouchTerms, null> = {
  on: "touch",
  read(fields) {
    if (fields.has("price") === fields.has("band")) fields.fault("price", `is wanted, or a "band", not both`);
    if (!fields.has("price")) return { on: "touch", band: fields.band("band") };
    const price = fields.price("price");
    return { on: "touch", band: [price, price] };
  },
  needs: () => [],
  start: () => null,
  next({ band: [bottom, top] }, _state, look) {
    const { tolerance } = look;
    return judgeEach(look, undefined, ({ bar: { high, low } }) => low <= top + tolerance && high >= bottom - tolerance);
  },
  say: ({ band: [bottom, top] }, market) => `price touches ${bandText({ bottom, top }, market)}`,
  prices: ({ band }) => [...new Set(band)],
};
