import { closesOf, metBy, type Condition, type Judged, ABOUT_NONE, OF_BAR } from "#core/conditions/condition";
import type { Bind } from "#core/conditions/price";
import { rungWord } from "#core/marks/wording";
import type { PatternNews } from "#core/observe/patternNews";
import { PATTERN_FAMILIES, PATTERN_NAMES, patternTitle, type PatternName } from "#core/patterns/registry";

const EVENTS = ["confirmed", "retested", "met", "failed"] as const;

export interface PatternTerms {
  on: "pattern";
  pattern: PatternName | "any";
  /** The way it was left. */
  way: "up" | "down" | "either";
  /** What has to happen to it; "confirmed" where left out. */
  event: (typeof EVENTS)[number];
  rung?: string;
}

const LEFT: readonly Bind[] = ["level", "patternStop", "patternTarget"];

/**
 * A pattern of a rung that is confirmed, retested, met or failed at a close, as `PatternDetector` finds it: from all
 * the bars of the rung that were told. It leaves the line it was left at, its stop and its target.
 */
export const pattern: Condition<PatternTerms, null> = {
  on: "pattern",
  read: (fields) => ({
    on: "pattern",
    pattern: fields.oneOf("pattern", ["any", ...PATTERN_NAMES]),
    way: fields.has("way") ? fields.oneOf("way", ["up", "down", "either"]) : "either",
    event: fields.has("event") ? fields.oneOf("event", EVENTS) : "confirmed",
    ...fields.rung(),
  }),
  needs: ({ rung }) => [{ rung, of: "patterns" }],
  start: () => null,
  next(terms, _state, look) {
    const judged = closesOf(look, terms.rung).map((close): Judged => {
      const news = close.patterns?.find((one) => isAsked(one, terms));
      const by = metBy(close, terms.rung, news?.line);
      return { met: news !== undefined, by: news ? { ...by, ...leftBy(news) } : by };
    });
    return { state: null, judged };
  },
  binds: () => [...OF_BAR, ...LEFT],
  ...ABOUT_NONE,
  say: ({ pattern: name, way, event, rung }) => {
    const what =
      name === "any"
        ? "a pattern"
        : way === "either"
          ? `one of ${PATTERN_FAMILIES[name].toLowerCase()}`
          : `a ${patternTitle(name, way === "up" ? 1 : -1).toLowerCase()}`;
    const left = way === "either" ? "" : ` ${event === "confirmed" ? way : `(left ${way})`}`;
    return `${what} is ${event}${left} on a ${rungWord(rung)}`;
  },
};

const leftBy = ({ stop, target }: PatternNews) => ({ stop, ...(target === undefined ? {} : { target }) });

function isAsked(news: PatternNews, { pattern: name, way, event }: PatternTerms): boolean {
  return (
    news.event === event &&
    (name === "any" || news.name === name) &&
    (way === "either" || news.way === (way === "up" ? 1 : -1))
  );
}
