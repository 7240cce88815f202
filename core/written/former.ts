import type { Scenario } from "#core/scenarios/scenario";
import type { Frozen, Written } from "#core/written/written";

/** A scenario of the first format has one trigger, a close, and says nothing of ranks. */
export const isFormer = (scenario: Written | Frozen | Scenario): scenario is Scenario => "trigger" in scenario;

/** A scenario of the first format as it is written today: break-even after the first target, wrong beyond a price. */
export function writtenOf(scenario: Written | Scenario): Written {
  if (!isFormer(scenario)) return scenario;
  const { id, title, premise, direction, trigger, entry, stop, targets, invalidation, expiry, restsOn } = scenario;
  const side = trigger.event === "closeAbove" ? "above" : "below";
  return {
    format: 2,
    id,
    title,
    premise,
    rank: "acceptable",
    role: "preferred",
    weight: 50,
    terms: {
      direction,
      while: [],
      if: [{ when: { on: "close", side, price: trigger.price, rung: trigger.timeframe } }],
      unless: [],
      orders: [
        { if: [], entry: { ...entry }, stop, targets: targets.map((target) => ({ ...target })), ...FIRST_ORDER },
      ],
      trail: null,
      wrong: invalidation,
      expires: new Date(expiry).toISOString(),
    },
    waived: {},
    ...(restsOn ? { restsOn } : {}),
  };
}

const FIRST_ORDER = { breakEven: { after: "target" }, risk: 1 } as const;
