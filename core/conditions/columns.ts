import { ABOUT_NONE, closesOf, metBy, OF_BAR, type Condition, type Judged } from "#core/conditions/condition";
import type { Bind } from "#core/conditions/price";
import type { ColumnRules } from "#core/columns/columns";
import { rungWord } from "#core/marks/wording";
import { columnsName } from "#core/observe/columnNews";

const EVENTS = ["in force", "met", "negated"] as const;

export interface ColumnsTerms {
  on: "columns";
  /** Size of a box: in percent of the price, or in price units. */
  percent?: number;
  box?: number;
  /** Boxes that turn a column; 3 where left out. */
  reversal: 1 | 3;
  /** The way the count points. */
  way: "up" | "down" | "either";
  event: (typeof EVENTS)[number];
  rung?: string;
}

const rulesOf = ({ percent, box, reversal }: ColumnsTerms): ColumnRules => ({
  ...{ box: box ?? { percent: percent ?? 1 }, reversal, method: "highLow" },
});

const LEFT: readonly Bind[] = ["level", "swing"];

/**
 * A count from columns of boxes (point and figure) that comes into force, is met or negated at a close of a rung, from
 * all its bars that were told. It leaves its target (`level`) and the extreme it is counted from (`swing`).
 */
export const columns: Condition<ColumnsTerms, null> = {
  on: "columns",
  read(fields) {
    const size = fields.has("box")
      ? { box: fields.number("box", 0, true) }
      : { percent: fields.has("percent") ? fields.number("percent", 0, true) : 1 };
    if (size.percent !== undefined && size.percent > 50) fields.fault("percent", "must be at most 50");
    if (fields.has("box") && fields.has("percent")) fields.fault("box", "cannot stand beside percent");
    const reversal = fields.whole("reversal", 1, 3, 3);
    return {
      ...{ on: "columns", ...size },
      reversal: reversal === 1 || reversal === 3 ? reversal : fields.fault("reversal", "must be 1 or 3"),
      way: fields.has("way") ? fields.oneOf("way", ["up", "down", "either"]) : "either",
      event: fields.has("event") ? fields.oneOf("event", EVENTS) : "in force",
      ...fields.rung(),
    };
  },
  needs: (terms) => [{ rung: terms.rung, of: "columns", columns: rulesOf(terms) }],
  start: () => null,
  next(terms, _state, look) {
    const name = columnsName(rulesOf(terms));
    const judged = closesOf(look, terms.rung).map((close): Judged => {
      const news = close.columns
        ?.get(name)
        ?.find(({ event, isUp }) => event === terms.event && (terms.way === "either" || isUp === (terms.way === "up")));
      const by = metBy(close, terms.rung, news?.target);
      return { met: news !== undefined, by: news ? { ...by, swing: news.from } : by };
    });
    return { state: null, judged };
  },
  binds: () => [...OF_BAR, ...LEFT],
  ...ABOUT_NONE,
  say: ({ percent, box, reversal, way, event, rung }) => {
    const boxes = box === undefined ? `${percent} % boxes` : `boxes of ${box}`;
    const points = way === "either" ? "" : ` that points ${way}`;
    return `a count of ${boxes}, ${reversal} to turn,${points} is ${event} on a ${rungWord(rung)}`;
  },
};
