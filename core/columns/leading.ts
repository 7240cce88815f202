import type { PointAndFigure } from "#core/columns/pointAndFigure";
import type { ColumnTarget } from "#core/columns/targets";

/** A target that leads, and the narrower counts of the same base. */
export interface LeadingTarget {
  target: ColumnTarget;
  nested: ColumnTarget[];
}

/**
 * Targets that still stand, the newest first: of horizontal counts from one extreme the widest leads (the base that was
 * broken last holds the others).
 */
export function leadingTargets(targets: readonly ColumnTarget[]): LeadingTarget[] {
  const out = new Map<string, LeadingTarget>();
  for (const target of targets) {
    if (target.state !== "waiting" && target.state !== "in force") continue;
    const { kind, isUp, from, start } = target;
    const key = kind === "vertical" ? `${kind} ${isUp} ${from} ${start}` : `${kind} ${isUp} ${from}`;
    const before = out.get(key);
    if (!before) out.set(key, { target, nested: [] });
    else if (target.count > before.target.count) out.set(key, { target, nested: [before.target, ...before.nested] });
    else before.nested.push(target);
  }
  return [...out.values()].sort((a, b) => b.target.knownAt - a.target.knownAt);
}

/** Whether a price lies within one box of a target that still stands on another chart. */
export function agrees(chart: PointAndFigure, { isUp, price }: { isUp: boolean; price: number }): boolean {
  return leadingTargets(chart.targets).some(({ target }) => {
    const [below, above] = [chart.priceOf(target.target - 1), chart.priceOf(target.target + 1)];
    return target.isUp === isUp && price >= below && price <= above;
  });
}
