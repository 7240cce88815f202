import { coincide, type Found, type Source } from "#core/finding/found";
import { answeredKeys, dismissal } from "#core/marks/dismissal";
import type { Mark } from "#core/marks/kind";
import { nominalLength, parseTimeframe } from "#core/time/timeframe";

/** Every key under which a fact can be answered. */
export function keysOf({ key, alsoKeys }: Found): string[] {
  return [key, ...alsoKeys];
}

/**
 * What is still to be answered: nothing a yes or a no was said to, and nothing the analyst has drawn by hand already.
 */
export function waitingOf(facts: readonly Found[], marks: readonly Mark[]): Found[] {
  const answered = answeredKeys(marks);
  return facts.filter(
    (fact) => !keysOf(fact).some((key) => answered.has(key)) && !marks.some((mark) => isSame(mark, fact)),
  );
}

/** The mark a fact becomes when it is taken over. */
export function markOf(fact: Found, market: string, id: string): Mark {
  const { kind, rung, anchors, props, lineage } = fact;
  const found = { keys: keysOf(fact).slice(0, 40), anchors: anchors.slice(0, 8), lineage: lineage.slice(0, 40) };
  return {
    id,
    kind,
    market,
    rung,
    anchors: anchors.slice(0, 8),
    props: kind === "level" ? { label: String(props.label).slice(0, 60) } : props,
    note: "",
    author: "",
    version: 0,
    found,
  };
}

/** The no to a fact. */
export function dismissalOf(fact: Found, market: string, id: string): Mark {
  const { rung, anchors, name } = fact;
  return {
    id,
    kind: dismissal.kind,
    market,
    rung,
    anchors: anchors.slice(0, 1),
    props: { keys: keysOf(fact).slice(0, 40), name: name.slice(0, 120) },
    note: "",
    author: "",
    version: 0,
  };
}

/**
 * The fact behind a mark drawn by hand, whose edges may be others than the machine's; none for a mark that was taken
 * over.
 */
export function factBehind(mark: Mark, facts: readonly Found[]): Found | undefined {
  return mark.found ? undefined : facts.find((fact) => isSame(mark, fact));
}

/**
 * A hand-drawn zone or gap that rests on the same bars, and for the most part on the same prices, as a fact is that
 * fact.
 */
function isSame(mark: Mark, fact: Found): boolean {
  if (mark.found || mark.kind !== fact.kind || mark.anchors.length < 2 || fact.anchors.length < 2) return false;
  if (mark.kind !== "zone" && mark.kind !== "gap") return false;
  if (mark.props.side !== undefined && mark.props.side !== fact.props.side) return false;
  const prices = mark.anchors.map(({ price }) => price);
  const [bottom, top] = [Math.min(...prices), Math.max(...prices)];
  const shared = Math.min(top, fact.top) - Math.max(bottom, fact.bottom);
  const smaller = Math.min(top - bottom, fact.top - fact.bottom);
  return shared >= smaller / 2 && fact.sources.some((source) => coincide(source, stretchOf(mark)));
}

/** From the first bar of a mark to about the end of its last. */
function stretchOf({ anchors, rung }: Mark): Source {
  const times = anchors.map(({ time }) => time);
  return {
    from: Math.min(...times),
    to: Math.max(...times) + nominalLength(parseTimeframe(rung) ?? { count: 1, unit: "day" }),
  };
}
