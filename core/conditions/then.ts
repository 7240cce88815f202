import { type Condition, type Kinds, OF_BAR, ABOUT_NONE } from "#core/conditions/condition";
import type { Fields } from "#core/conditions/fields";
import { advanceSteps, beginSteps, type StepsState, type StepTerms } from "#core/conditions/steps";
import type { MarketFacts } from "#core/marks/kind";
import type { Need } from "#core/observe/tape";
import { countText } from "#core/marks/wording";

export interface ThenTerms {
  on: "then";
  of: readonly StepTerms[];
}

/** One thing after the other, each within so many bars where that is asked for; what lapses begins anew. */
export const thenOf = (kinds: Kinds): Condition<ThenTerms, StepsState | null> => ({
  on: "then",
  read: (fields) => ({ on: "then", of: stepsFrom(kinds, fields, "of", 1) }),
  needs: ({ of }) => of.flatMap(({ when }): readonly Need[] => kinds.of(when).needs(when)),
  start: () => null,
  next({ of }, before, look) {
    const state = before ?? beginSteps(kinds, of, look.since);
    const step = advanceSteps(kinds, of, state, look);
    const { high, low, close, to } = look.moment.told;
    const isMet = step.isMet && step.state.met.length === of.length;
    const by = isMet ? step.state.met[of.length - 1] : { high, low, close };
    return {
      state: isMet || step.lapsed ? beginSteps(kinds, of, to) : step.state,
      judged: look.moment.told.from >= look.since ? [{ met: isMet, by }] : [],
    };
  },
  binds: () => OF_BAR,
  ...ABOUT_NONE,
  say: ({ of }, market) => sayInOrder(kinds, of, market),
});

/** Steps from untrusted data: a list of { when, within? }. */
export function stepsFrom(kinds: Kinds, fields: Fields, name: string, least: number): StepTerms[] {
  return fields.list(name, least, 20).map((raw, i) => {
    const step = fields.at(raw, `${name}[${i}]`);
    const when = kinds.read(step.take("when"), `${step.path}.when`, step);
    const within = step.has("within") ? { within: step.whole("within", 1, 100_000) } : {};
    step.done();
    return { when, ...within };
  });
}

/** "a 4 h candle closes above 404.10, then within 10 bars price touches 402.00". */
export function sayInOrder(kinds: Kinds, steps: readonly StepTerms[], market: Pick<MarketFacts, "decimals">): string {
  return steps
    .map(({ when, within }, i) => {
      const said = kinds.of(when).say(when, market);
      const limit = within === undefined ? "" : `within ${countText(within, "bar")} `;
      return `${i > 0 ? ", then " : ""}${limit}${said}`;
    })
    .join("");
}
