import type { Anchor, Mark, MarketFacts, MarkKind, Problem } from "#core/marks/kind";
import { inOrder, readRatios, type MeasuredLine } from "#core/marks/measuring/lines";
import { percentText, priceText } from "#core/marks/wording";

export interface TargetProps {
  ratios: number[];
  /** Equal distances, or equal ratios of prices. */
  scale: "arithmetic" | "log";
  /** Whether it counts at once, or from the close beyond the end of its leg on. */
  force: "atOnce" | "break";
  /** As far before a target as counts as reaching it, in price units. */
  tolerance: number;
}

export interface TargetState {
  /** The bar it came into force with; absent while it waits. */
  forceAt?: number;
  /** Of each ratio the bar that met it; null while none has. */
  met: (number | null)[];
  /** Every one of them was met. */
  done?: true;
  negatedAt?: number;
}

/** What a kind lays off: the leg, where it is laid from, and the price that negates it. */
export interface Laid {
  leg: { from: number; to: number };
  origin: number;
  /** A wick beyond it, against the targets, negates what is not met. */
  wrong: number;
}

interface TargetKind {
  kind: string;
  title: string;
  anchors: number;
  /** Its anchors mean what they mean in the order they were placed in, not in that of time. */
  asPlaced?: true;
  usual: Pick<TargetProps, "ratios" | "force">;
  laid(anchors: readonly Anchor[]): Laid;
  /** What its anchors have to be besides in order. */
  check(anchors: readonly Anchor[]): Problem[];
}

const CODES = { waiting: "waiting", "in force": "inForce", met: "met", negated: "negated" } as const;

/** Prices within a thousandth of a tick are one: what a tick is, is not known here, so a share of the leg stands in. */
const NEARLY = 1e-9;

/** The target of a ratio: origin + ratio (to - from), or origin (to / from)^ratio on the log scale. */
export function targetAt({ leg: { from, to }, origin }: Laid, ratio: number, scale: TargetProps["scale"]): number {
  return scale === "log" ? origin * (to / from) ** ratio : origin + ratio * (to - from);
}

/** Ratios with their prices; those that are not above 0 where the leg is are left out. */
export function targetsOf({ anchors, props }: Pick<Mark<TargetProps>, "anchors" | "props">, laid: Laid) {
  const above = anchors.every(({ price }) => price > 0);
  return props.ratios
    .map((ratio, n) => ({ ratio, n, price: targetAt(laid, ratio, props.scale) }))
    .filter(({ price }) => !above || price > 0);
}

/**
 * A kind of mark that lays targets off: it waits, comes into force (at once, or with a close beyond the end of its
 * leg), is met ratio by ratio by the wicks that follow, and is negated by a wick beyond the price it is laid against.
 * A bar that would do both negates it: the way within a bar is not known. What was met stays met.
 */
export function targetKind(of: TargetKind): MarkKind<TargetProps, TargetState> {
  const ordered = (anchors: readonly Anchor[]) => (of.asPlaced ? [...anchors] : inOrder(anchors));
  const laidOf = ({ anchors }: Pick<Mark, "anchors">) => of.laid(ordered(anchors));
  const standing = ({ done, negatedAt, forceAt }: TargetState): keyof typeof CODES =>
    done ? "met" : negatedAt !== undefined ? "negated" : forceAt === undefined ? "waiting" : "in force";
  return {
    kind: of.kind,
    title: of.title,
    anchors: { least: of.anchors, most: of.anchors },
    onExtremes: true,
    readProps(raw) {
      const ratios = readRatios(raw.ratios, of.usual.ratios);
      const { scale = "arithmetic", force = of.usual.force, tolerance = 0 } = raw;
      if (!ratios || (scale !== "arithmetic" && scale !== "log") || (force !== "atOnce" && force !== "break"))
        return undefined;
      if (typeof tolerance !== "number" || !(tolerance >= 0 && tolerance < 1e12)) return undefined;
      return { ratios, scale, force, tolerance };
    },
    check(mark) {
      const anchors = ordered(mark.anchors);
      const problems = of.check(anchors);
      if (mark.props.scale === "log" && anchors.some(({ price }) => price <= 0))
        return [{ sentence: "On a log scale every price is above zero.", anchor: 0 }, ...problems];
      const { leg } = of.laid(anchors);
      return leg.from === leg.to
        ? [{ sentence: "Both ends of the leg have one price.", anchor: 1 }, ...problems]
        : problems;
    },
    start: ({ anchors, props }) => ({
      ...(props.force === "atOnce" ? { forceAt: inOrder(anchors).at(-1)!.time } : {}),
      met: props.ratios.map(() => null),
    }),
    advance(mark, state, bar, emit) {
      const laid = laidOf(mark);
      const { from, to } = laid.leg;
      const sign = Math.sign(to - from);
      if (sign === 0 || state.done || state.negatedAt !== undefined) return state;
      const [on, back] = sign > 0 ? [bar.high, bar.low] : [bar.low, bar.high];
      if (sign * (laid.wrong - back) > 0) {
        emit({ event: "negated", time: bar.time, price: laid.wrong });
        return { ...state, negatedAt: bar.time };
      }
      const waits = state.forceAt === undefined;
      if (waits && sign * (bar.close - to) <= 0) return state;
      if (waits) emit({ event: "inForce", time: bar.time });
      // Of the bar that broke out only the close is surely later than the break.
      const reached = waits ? bar.close : on;
      const reach = mark.props.tolerance + NEARLY * Math.abs(to - from);
      const met = [...state.met];
      const all = targetsOf(mark, laid);
      for (const { n, ratio, price } of all)
        if (met[n] === null && sign * (reached - price) >= -reach) {
          met[n] = bar.time;
          emit({ event: "lineMet", time: bar.time, ratio, price });
        }
      if (!waits && met.every((one, n) => one === state.met[n])) return state;
      const done = all.every(({ n }) => met[n] !== null);
      return { forceAt: state.forceAt ?? bar.time, met, ...(done ? { done } : {}) };
    },
    status: (state) => ({ code: CODES[standing(state)], dead: state.done === true || state.negatedAt !== undefined }),
    prices(mark, { state }) {
      const { leg, wrong } = laidOf(mark);
      const targets = targetsOf(mark, laidOf(mark))
        .filter(({ n }) => state.met[n] === null)
        .map(({ ratio, price }) => ({
          ...{
            bottom: price,
            top: price,
            role: "target" as const,
            label: `${of.title.toLowerCase()} ${percentText(ratio)}`,
          },
          leg: [leg.from, leg.to] as const,
        }));
      const kill = { bottom: wrong, top: wrong, role: "kill" as const, label: of.title.toLowerCase() };
      return [...targets, kill];
    },
    lines(mark, { state }) {
      const [whole, at] = [standing(state), state.negatedAt ?? state.forceAt];
      return targetsOf(mark, laidOf(mark)).map(({ n, ratio, price }): MeasuredLine => {
        const met = state.met[n];
        if (met !== null) return { name: percentText(ratio), price, state: "met", at: met };
        return { name: percentText(ratio), price, state: whole, ...(at === undefined ? {} : { at }) };
      });
    },
    say(mark, { state }, market) {
      const { leg, origin } = laidOf(mark);
      const next = targetsOf(mark, laidOf(mark)).find(({ n }) => state.met[n] === null);
      const met = mark.props.ratios.filter((_, n) => state.met[n] !== null).at(-1);
      const said = [
        standing(state),
        met === undefined ? "" : `${percentText(met)} met`,
        next && state.negatedAt === undefined ? `next ${percentText(next.ratio)} ${priceText(next.price, market)}` : "",
      ];
      const name = `${of.title} of ${legText(leg, market)}${laidFrom(origin, leg, market)}`;
      return `${name}: ${said.filter(Boolean).join(", ")}.`;
    },
  };
}

const legText = ({ from, to }: Laid["leg"], market: MarketFacts) =>
  `${priceText(from, market)} to ${priceText(to, market)}`;

const laidFrom = (origin: number, { from, to }: Laid["leg"], market: MarketFacts) =>
  origin === from || origin === to ? "" : ` from ${priceText(origin, market)}`;
