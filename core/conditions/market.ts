import { type Condition, type Judged, type Kinds, OF_BAR, ABOUT_NONE } from "#core/conditions/condition";
import type { Terms } from "#core/conditions/registry";

export interface MarketTerms {
  on: "market";
  /** The name the other market's bars are told under. */
  market: string;
  when: Terms;
}

/** A condition on another market, judged by its bars that are known with this one. */
export const marketOf = (kinds: Kinds): Condition<MarketTerms, unknown> => ({
  on: "market",
  read(fields) {
    const market = fields.take("market");
    if (typeof market !== "string" || market === "") fields.fault("market", "must name another market");
    const when = kinds.read(fields.take("when"), `${fields.path}.when`, fields);
    if (when.on === "market") fields.fault("when", "is a condition on that market's own bars");
    return { on: "market", market: market as string, when };
  },
  needs: ({ market, when }) =>
    [{ of: "closes" as const }, ...kinds.of(when).needs(when)].map((need) => ({ ...need, market })),
  start: ({ when }) => kinds.of(when).start(when),
  next({ market, when }, state, look) {
    const judged: Judged[] = [];
    for (const { moment, tick } of look.moment.others(market)) {
      // What opened before this condition began to look does not count, as at home.
      const own = kinds.of(when).next(when, state, { ...look, moment, tolerance: tick / 1000 });
      state = own.state;
      judged.push(...own.judged);
    }
    return { state, judged };
  },
  binds: () => OF_BAR,
  ...ABOUT_NONE,
  say: ({ market, when }, decimals) => `on ${market} ${kinds.of(when).say(when, decimals)}`,
});
