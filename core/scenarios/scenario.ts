/** A scenario: while it is not wrong, if the trigger comes before expiry, enter, with stop and targets. */
export interface Scenario {
  id: string;
  title: string;
  premise: string;
  direction: "long" | "short";
  trigger: Trigger;
  entry: { order: "market" | "limit" | "stop"; price: number };
  stop: number;
  /** Nearest first; shares of the position, together 1. */
  targets: { price: number; share: number }[];
  /** Wrong once a wick is strictly beyond: below for a long, above for a short. */
  invalidation: number;
  /** Milliseconds UTC; a scenario not entered by then lapses. */
  expiry: number;
  /** Id of the count (a mark) it rests on; when that dies the scenario has lost its reason. */
  restsOn?: string;
}

export interface Trigger {
  event: "closeAbove" | "closeBelow";
  price: number;
  /** ISO 8601 timeframe whose close counts. */
  timeframe: string;
}

export interface ScenarioFigures {
  /** Entry to stop, in price units, always positive when the scenario is sound. */
  risk: number;
  riskPercent: number;
  riskPips: number;
  targets: { price: number; share: number; percent: number; pips: number; r: number }[];
  /** Reward to risk over all targets, weighted by their shares. */
  blended: number;
}

/** +1 for a long, -1 for a short: "beyond" in the direction of the scenario. */
export function signOf({ direction }: Pick<Scenario, "direction">): 1 | -1 {
  return direction === "long" ? 1 : -1;
}

type Prices = Pick<Scenario, "direction" | "entry" | "stop" | "targets">;

/**
 * Risk and reward of a scenario from its entry: percent of the entry price, pips of `pip`, and multiples of the risk.
 */
export function scenarioFigures({ direction, entry, stop, targets }: Prices, pip: number): ScenarioFigures {
  const sign = signOf({ direction });
  const risk = sign * (entry.price - stop);
  const rows = targets.map(({ price, share }) => {
    const gain = sign * (price - entry.price);
    return { price, share, percent: gain / entry.price, pips: gain / pip, r: gain / risk };
  });
  const shares = rows.reduce((sum, { share }) => sum + share, 0);
  return {
    risk,
    riskPercent: risk / entry.price,
    riskPips: risk / pip,
    targets: rows,
    blended: rows.reduce((sum, { r, share }) => sum + r * share, 0) / shares,
  };
}

export interface ScenarioProblem {
  field: string;
  sentence: string;
  /** Faults stop a scenario from being published, warnings only speak up. */
  severity: "fault" | "warning";
}

/** What is wrong with a scenario's prices. `now` is the market's clock. */
export function checkScenario(scenario: Scenario, now: number): ScenarioProblem[] {
  const sign = signOf(scenario);
  const behind = sign > 0 ? "below" : "above";
  const ahead = sign > 0 ? "above" : "below";
  const out: ScenarioProblem[] = [];
  const fault = (field: string, sentence: string) => out.push({ field, sentence, severity: "fault" });
  if (sign * (scenario.entry.price - scenario.stop) <= 0)
    fault("stop", `The stop of a ${scenario.direction} stands ${behind} its entry.`);
  scenario.targets.forEach(({ price }, i) => {
    if (sign * (price - scenario.entry.price) <= 0)
      fault(`targets.${i}.price`, `A target of a ${scenario.direction} stands ${ahead} its entry.`);
    else if (i > 0 && sign * (price - scenario.targets[i - 1].price) <= 0)
      fault(`targets.${i}.price`, `Target ${i + 1} stands beyond target ${i}.`);
  });
  if (sign * (scenario.entry.price - scenario.invalidation) <= 0)
    fault("invalidation", `A ${scenario.direction} is wrong ${behind} its entry, not ${ahead} it.`);
  if (scenario.expiry <= now) fault("expiry", "The expiry has already passed on the market's clock.");
  if (out.length === 0) {
    const { blended } = scenarioFigures(scenario, 1);
    if (blended < 1)
      out.push({
        field: "targets",
        sentence: `Reward to risk is ${blended.toFixed(2)} : 1. Below 1 : 1 it is not worth it.`,
        severity: "warning",
      });
  }
  return out;
}
