import type { MarkKind } from "#core/marks/kind";
import { countText, priceText } from "#core/marks/wording";

export interface PathProps {
  label: string;
}

export interface PathState {
  /** Index of the turn that is waited for next; past the last one when all were reached. */
  next: number;
}

/**
 * The way price is expected to take: from its first point through turns that lie ahead. A turn is reached by the first
 * bar whose range holds its price, once the one before was reached; when that happens is not judged.
 */
export const path: MarkKind<PathProps, PathState> = {
  kind: "path",
  title: "Future path",
  anchors: { least: 2, most: 12 },
  birth: "first",
  readProps({ label = "" }) {
    return typeof label === "string" && label.length <= 60 ? { label } : undefined;
  },
  check({ anchors }) {
    const wrong = anchors.findIndex(({ time }, i) => i > 0 && time <= anchors[i - 1].time);
    return wrong > 0 ? [{ sentence: "Each turn of a path comes after the one before.", anchor: wrong }] : [];
  },
  start: () => ({ next: 1 }),
  advance({ anchors }, state, bar, emit) {
    let { next } = state;
    // A bar whose range holds several turns cannot tell their order: one a bar.
    if (next < anchors.length && bar.low <= anchors[next].price && bar.high >= anchors[next].price) {
      emit({ event: "turnReached", time: bar.time, turn: next, of: anchors.length - 1, price: anchors[next].price });
      next++;
    }
    return next === state.next ? state : { next };
  },
  status: ({ next }) => ({
    code: "ahead",
    dead: false,
    ...(next > 1 ? { words: `${countText(next - 1, "turn")} reached` } : {}),
  }),
  prices({ anchors, props }, { state }) {
    return anchors.slice(state.next).map(({ price }, i) => ({
      bottom: price,
      top: price,
      role: "target",
      label: `${props.label || "path"}, turn ${state.next + i}`,
    }));
  },
  say({ anchors, props }, { state }, market) {
    const ahead = anchors.slice(state.next).map(({ price }) => priceText(price, market));
    return `${props.label || "Path"}${ahead.length > 0 ? ` to ${ahead.join(", then ")}` : ": every turn was reached"}.`;
  },
};
