import { marketEntry } from "#core/written/guess";
import { contractOf } from "#core/written/ground";
import type { WrittenOrder, WrittenPrice, WrittenTerms } from "#core/written/written";
import type { StepTerms } from "#core/conditions/steps";

/** What means the other way round, by the field it stands in. */
const OTHER: Record<string, Record<string, string>> = {
  side: { above: "below", below: "above", high: "low", low: "high" },
  direction: { up: "down", down: "up" },
  bind: { barHigh: "barLow", barLow: "barHigh" },
  of: { high: "low", low: "high" },
  pattern: { "engulfing up": "engulfing down", "engulfing down": "engulfing up" },
};

/** Conditions and bound prices the other way round; the prices they are about stay where they are. */
function turned(value: unknown, field = ""): unknown {
  if (typeof value === "string") return OTHER[field]?.[value] ?? value;
  if (Array.isArray(value)) return value.map((one) => turned(one));
  if (typeof value !== "object" || value === null || "follows" in value) return value;
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, turned(one, name)]));
}

/**
 * A scenario in the other direction: what its steps are about stays, from the other side; stops and targets that are
 * numbers stand as far from the entry, on the other side of it. What follows a mark stays at its mark.
 */
export function mirrored(terms: WrittenTerms, close: number, onTick: (price: number) => number): WrittenTerms {
  const { orders, wrong, ...rest } = terms;
  const steps = (contractOf(terms).if ?? []) as StepTerms[];
  const about = (order: WrittenOrder) =>
    typeof order.entry.price === "number" ? order.entry.price : marketEntry(steps, terms.direction, close).price;
  const across = (price: WrittenPrice, centre: number): WrittenPrice =>
    typeof price === "number" ? onTick(2 * centre - price) : (turned(price) as WrittenPrice);
  return {
    ...rest,
    direction: terms.direction === "long" ? "short" : "long",
    while: turned(rest.while) as WrittenTerms["while"],
    if: turned(rest.if) as WrittenTerms["if"],
    unless: turned(rest.unless) as WrittenTerms["unless"],
    orders: orders.map((order) => ({
      ...order,
      if: turned(order.if) as WrittenOrder["if"],
      stop: across(order.stop, about(order)),
      targets: order.targets.map((target) => ({ ...target, price: across(target.price, about(order)) })),
    })),
    wrong: orders[0] ? across(wrong, about(orders[0])) : wrong,
  };
}
