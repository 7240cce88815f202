import { atr } from "#core/studies/atr";
import { fitLevel } from "#core/levels/fitted";
import type { Mark, MarkContext, MarkKind } from "#core/marks/kind";
import { level, type LevelState } from "#core/marks/level";
import { countText, priceText } from "#core/marks/wording";
import { firstAtOrAfter, lastAtOrBefore } from "#core/series/series";

export interface FittedLevelProps {
  label: string;
  /** Wick touches and closes through within the window, once it was fitted. */
  touches: number;
  through: number;
}

/** The level may lie this many ATR(14) from the rough price; a wick within this many of it touches it. */
const REACH_ATR = 1;
const NEAR_ATR = 0.05;

/**
 * A price that the wicks of a window respect, found near a rough one; from the window's end on it lives as a level
 * does.
 */
export const fittedLevel: MarkKind<FittedLevelProps, LevelState> = {
  kind: "fittedLevel",
  title: "Fitted level",
  anchors: { least: 2, most: 2 },
  readProps(raw) {
    const { label = "", touches = 0, through = 0 } = raw;
    const counted = [touches, through].every((value) => Number.isSafeInteger(value) && (value as number) >= 0);
    return typeof label === "string" && label.length <= 60 && counted
      ? { label, touches: touches as number, through: through as number }
      : undefined;
  },
  complete: (mark, context) => fit(mark, context),
  check: ({ props: { touches } }) =>
    touches < 2 ? [{ sentence: "Fewer than two wicks end at this price within the window." }] : [],
  start: ({ anchors, ...mark }, context) =>
    level.start({ ...mark, anchors: anchors.slice(-1), props: { label: mark.props.label } }, context),
  advance: ({ props: { label }, ...mark }, state, bar, emit) =>
    level.advance({ ...mark, props: { label } }, state, bar, emit),
  status: (state) => level.status(state),
  prices: ({ props: { label }, ...mark }, life) =>
    level.prices({ ...mark, props: { label: label || "fitted level" } }, life),
  say({ anchors, props: { label, touches, through } }, { status }, market) {
    const found = `${countText(touches, "wick")}, ${countText(through, "close")} through`;
    return `${label || "Fitted level"} ${priceText(anchors[0].price, market)} by ${found}; ${status} since.`;
  },
};

/** Both anchors at the fitted price, in the order of time; the mark as it is when nothing can be fitted. */
function fit(mark: Mark<FittedLevelProps>, { series, market }: MarkContext): Mark<FittedLevelProps> {
  const [a, b] = [...mark.anchors].sort((one, other) => one.time - other.time);
  const [from, to] = [firstAtOrAfter(series, a.time), lastAtOrBefore(series, b.time)];
  if (to <= from) return mark;
  const range = atr(series)[to] || series.high[to] - series.low[to];
  const rough = (a.price + b.price) / 2;
  const found = fitLevel(series, from, to, rough, {
    reach: Math.max(REACH_ATR * range, market.tick),
    near: Math.max(NEAR_ATR * range, market.tick),
    tick: market.tick,
  });
  if (!found) return mark;
  const price = Number(found.price.toFixed(market.decimals));
  return {
    ...mark,
    anchors: [
      { ...a, price },
      { ...b, price },
    ],
    props: { ...mark.props, touches: found.touches, through: found.through },
  };
}
