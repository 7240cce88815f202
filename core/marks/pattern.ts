import type { MarkEvent } from "#core/marks/markEvent";
import type { Anchor, MarkKind } from "#core/marks/kind";
import { indexAt, inOrder, outOfOrder } from "#core/marks/measuring/lines";
import { priceText } from "#core/marks/wording";
import { advancePattern, FORMING, isOver, type PatternLife } from "#core/patterns/life";
import { isPatternName, patternTitle, PATTERN_NAMES, PATTERNS, type PatternName } from "#core/patterns/registry";
import { priceOn, type Judged, type PatternForm, type PatternRule, type PatternShape } from "#core/patterns/shape";
import { ruleText } from "#core/patterns/ruleText";
import type { Series } from "#core/series/series";
import { atrBefore } from "#core/zones/edges";

export interface PatternProps {
  pattern: PatternName;
  /** The way it points; of one that may be left either way it says nothing. */
  way: "up" | "down";
}

export interface PatternState {
  form: PatternForm;
  rules: PatternRule[];
  sign: 1 | -1;
  life: PatternLife;
  /** Index of its first point and of the bar its life has come to, by the bars of its rung; that bar's `time`. */
  first: number;
  at: number;
  seen: number;
  tick: number;
}

const shapeOf = (name: PatternName): PatternShape => PATTERNS[name];
const signOf = ({ pattern, way }: PatternProps): 1 | -1 => (shapeOf(pattern).isEither || way === "up" ? 1 : -1);

/** What a pattern of so many points is first taken for. */
const USUAL: Readonly<Record<number, PatternName>> = { 4: "doubleBottom", 5: "flag", 6: "headAndShoulders" };

/** A pattern held against its rules, on the bars its points stand on. */
export function judgePattern(props: PatternProps, anchors: readonly Anchor[], series: Series): Judged {
  const sign = signOf(props);
  const points = inOrder(anchors).map(({ time, price }) => ({ index: indexAt(series, time), price: sign * price }));
  const last = points[points.length - 1].index;
  const atr = Math.max(Number.MIN_VALUE, atrBefore(series, Math.min(series.length, last + 1)));
  return shapeOf(props.pattern).judge(points, { atr, bars: series, sign, measured: new Map() });
}

/** How many rules a reading of some points breaks. */
function brokenBy(props: PatternProps, anchors: readonly Anchor[], series: Series): number {
  const { points, first } = shapeOf(props.pattern);
  if (points.length !== anchors.length) return Infinity;
  const isHigh = anchors[0].price > anchors[1].price === signOf(props) > 0;
  if (first !== "any" && isHigh !== (first === "high")) return Infinity;
  return judgePattern(props, anchors, series).rules.filter(({ holds }) => !holds).length;
}

/** Points read as the pattern that breaks the fewest rules. */
function readAs(anchors: readonly Anchor[], series: Series): PatternProps | undefined {
  const readings = PATTERN_NAMES.flatMap((pattern) => [
    { pattern, way: "up" as const },
    { pattern, way: "down" as const },
  ]);
  const judged = readings.map((props) => ({ props, broken: brokenBy(props, anchors, series) }));
  const [best] = judged.filter(({ broken }) => broken < Infinity).sort((a, b) => a.broken - b.broken);
  return best?.props;
}

const canJudge = (anchors: readonly Anchor[], series: Series) =>
  series.length > 0 && new Set(anchors.map(({ time }) => indexAt(series, time))).size === anchors.length;

/**
 * Turns that are a pattern, found or placed by hand, held to one table of rules (`core/patterns/`). It waits for a
 * close beyond its line and is followed to its target.
 */
export const pattern: MarkKind<PatternProps, PatternState> = {
  kind: "pattern",
  title: "Pattern",
  anchors: { least: 4, most: 6 },
  onExtremes: true,
  readProps({ pattern: name, way = "up", ...rest }, anchors) {
    const read = name === undefined ? (USUAL[anchors ?? 5] ?? "flag") : name;
    if (!isPatternName(read) || (way !== "up" && way !== "down") || Object.keys(rest).length > 0) return undefined;
    if (anchors !== undefined && anchors in USUAL && shapeOf(read).points.length !== anchors) return undefined;
    return { pattern: read, way };
  },
  complete(mark, { series }) {
    const anchors = inOrder(mark.anchors);
    const props = canJudge(anchors, series) ? readAs(anchors, series) : undefined;
    return { ...mark, anchors, props: props ?? mark.props };
  },
  check({ anchors, props }, { series }) {
    const wrong = outOfOrder(anchors);
    if (wrong.length > 0 || !canJudge(anchors, series)) return wrong;
    const broken = judgePattern(props, anchors, series).rules.filter(({ holds }) => !holds);
    return broken.map((rule) => ({ sentence: `${patternTitle(props.pattern, signOf(props))}: ${ruleText(rule)}.` }));
  },
  start({ anchors, props }, { series, market }) {
    const points = inOrder(anchors);
    const [first, last] = [points[0], points[points.length - 1]].map(({ time }) => indexAt(series, time));
    const shared = { sign: signOf(props), first, at: last, seen: points[points.length - 1].time, tick: market.tick };
    if (!canJudge(anchors, series))
      return { ...shared, form: NOTHING, rules: [], life: { state: "negated", endedAt: last } };
    const { rules, form } = judgePattern(props, points, series);
    return { ...shared, form: form(), rules, life: FORMING };
  },
  advance(_, state, bar, emit) {
    if (isOver(state.life)) return state;
    const at = state.at + 1;
    const life = advancePattern(state.form, state.sign, state.life, bar, at, state.tick);
    tell(state.life, life, bar.time, emit);
    return { ...state, at, seen: bar.time, life };
  },
  status({ life }) {
    const code = life.state === "confirmed" && life.retestedAt !== undefined ? "retested" : life.state;
    return { code, dead: isOver(life) };
  },
  prices({ props }, { state }) {
    const { life } = state;
    const name = patternTitle(props.pattern, state.sign).toLowerCase();
    if (life.state !== "confirmed") {
      const { confirm, against } = linesAt(state);
      return [
        { ...at(confirm), role: state.sign > 0 ? "resistance" : "support", label: `${name}, line to close beyond` },
        { ...at(against), role: state.sign > 0 ? "support" : "resistance", label: `${name}, other side` },
      ];
    }
    return [
      { ...at(life.broke!), role: life.way! > 0 ? "support" : "resistance", label: `${name}, line it left` },
      ...(life.target === undefined ? [] : [{ ...at(life.target), role: "target" as const, label: `${name}, target` }]),
      { ...at(life.stop!), role: "kill", label: `${name}, stop` },
    ];
  },
  lines(_, { state: { life } }) {
    if (life.target === undefined) return [];
    const state = ({ confirmed: "in force", met: "met" } as const)[life.state as "met"] ?? "negated";
    return [{ name: "100 %", price: life.target, state }];
  },
  say({ props }, { state }, market) {
    const { life, form } = state;
    const title = patternTitle(props.pattern, state.sign);
    const price = (value: number) => priceText(value, market);
    if (life.state === "forming") {
      const { confirm, against } = linesAt(state);
      const [up, down] = state.sign > 0 ? [confirm, against] : [against, confirm];
      return form.isEither
        ? `${title}: left by a close above ${price(up)} or below ${price(down)}.`
        : `${title}: waits for a close ${state.sign > 0 ? "above" : "below"} ${price(confirm)}; ` +
            `a close ${state.sign > 0 ? "below" : "above"} ${price(against)} negates it.`;
    }
    if (life.way === undefined)
      return `${title}: negated ${life.isLate ? "by time, nothing confirmed it" : "before it was confirmed"}.`;
    const end = { confirmed: life.retestedAt === undefined ? "" : ", retested", met: ", met", failed: ", failed" };
    return (
      `${title}: confirmed ${life.way > 0 ? "up" : "down"} at ${price(life.broke!)}, ` +
      `${life.target === undefined ? "no target above 0" : `target ${price(life.target)}`}, ` +
      `stop ${price(life.stop!)}${end[life.state as "met"] ?? ""}.`
    );
  },
};

const at = (price: number) => ({ bottom: price, top: price });
/** What a mark whose points are on no bars of their own waits for: nothing. */
const NOTHING: PatternForm = {
  ...{ confirm: { index: 0, price: 0, perBar: 0 }, against: { index: 0, price: 0, perBar: 0 }, isEither: false },
  ...{ height: 0, stop: 0, otherStop: 0, until: 0 },
};

/** Both lines at the bar a life has come to, as the market has them. */
export function linesAt({ form, sign, at: bar }: Pick<PatternState, "form" | "sign" | "at">): {
  confirm: number;
  against: number;
} {
  return { confirm: sign * priceOn(form.confirm, bar), against: sign * priceOn(form.against, bar) };
}

function tell(before: PatternLife, life: PatternLife, time: number, emit: (event: MarkEvent) => void): void {
  if (life === before) return;
  if (life.state === "confirmed" && before.state === "forming")
    emit({
      event: "confirmed",
      time,
      price: life.broke!,
      ...(life.target === undefined ? {} : { target: life.target }),
      side: life.way! > 0 ? "above" : "below",
    });
  else if (life.state === "met") emit({ event: "lineMet", time, ratio: 1, price: life.target! });
  else if (life.state === "failed") emit({ event: "failed", time, price: life.stop! });
  else if (life.state === "negated") emit({ event: life.isLate ? "lapsed" : "negatedEarly", time });
  else emit({ event: "retested", time });
}
