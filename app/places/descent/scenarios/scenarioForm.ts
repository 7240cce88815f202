import { ScenarioDto } from "#contracts/scenario";
import { readDto } from "#contracts/read";
import { checkScenario, type ScenarioProblem, type Scenario } from "#core/scenarios/scenario";
import { priceText } from "#core/marks/wording";
import { parseNumber } from "../../../parts/numbers.ts";
import { fromInput, toInput } from "../../../parts/inputTimes.ts";

/** The builder's fields as they are typed. */
export interface ScenarioFields {
  title: string;
  premise: string;
  direction: "long" | "short";
  triggerEvent: "closeAbove" | "closeBelow";
  triggerPrice: string;
  triggerTimeframe: string;
  order: "market" | "limit" | "stop";
  entry: string;
  stop: string;
  target1: string;
  target2: string;
  invalidation: string;
  expiry: string;
  /** Id of the count the scenario rests on, empty for none. */
  restsOn: string;
}

const DAY = 86_400_000;

/** A builder for a new scenario: only what can be known is filled in. */
export function emptyFields(rung: string, now: number, zone: string): ScenarioFields {
  return {
    title: "",
    premise: "",
    direction: "long",
    triggerEvent: "closeAbove",
    triggerPrice: "",
    triggerTimeframe: rung,
    order: "market",
    entry: "",
    stop: "",
    target1: "",
    target2: "",
    invalidation: "",
    expiry: toInput(now + 14 * DAY, zone),
    restsOn: "",
  };
}

export function fieldsOf(scenario: Scenario, decimals: number, zone: string): ScenarioFields {
  const text = (price: number | undefined) => (price === undefined ? "" : priceText(price, { decimals }));
  return {
    title: scenario.title,
    premise: scenario.premise,
    direction: scenario.direction,
    triggerEvent: scenario.trigger.event,
    triggerPrice: text(scenario.trigger.price),
    triggerTimeframe: scenario.trigger.timeframe,
    order: scenario.entry.order,
    entry: text(scenario.entry.price),
    stop: text(scenario.stop),
    target1: text(scenario.targets[0]?.price),
    target2: text(scenario.targets[1]?.price),
    invalidation: text(scenario.invalidation),
    expiry: toInput(scenario.expiry, zone),
    restsOn: scenario.restsOn ?? "",
  };
}

/** The scenario the fields say; prices that cannot be read are NaN. Two targets share the position by halves. */
export function scenarioOf(fields: ScenarioFields, id: string, zone: string): Scenario {
  const targets = [fields.target1, fields.target2].filter((text) => text.trim() !== "");
  return {
    id,
    title: fields.title.trim(),
    premise: fields.premise,
    direction: fields.direction,
    trigger: {
      event: fields.triggerEvent,
      price: parseNumber(fields.triggerPrice),
      timeframe: fields.triggerTimeframe,
    },
    entry: { order: fields.order, price: parseNumber(fields.entry) },
    stop: parseNumber(fields.stop),
    targets: targets.map((text) => ({ price: parseNumber(text), share: 1 / targets.length })),
    invalidation: parseNumber(fields.invalidation),
    expiry: fromInput(fields.expiry, zone),
    ...(fields.restsOn ? { restsOn: fields.restsOn } : {}),
  };
}

const FIELD_OF: Record<string, keyof ScenarioFields> = {
  title: "title",
  premise: "premise",
  "trigger.price": "triggerPrice",
  "entry.price": "entry",
  stop: "stop",
  targets: "target1",
  "targets.0.price": "target1",
  "targets.1.price": "target2",
  invalidation: "invalidation",
  expiry: "expiry",
};

export interface PlanChecks {
  /** Faults by field of the builder. */
  faults: Partial<Record<keyof ScenarioFields, string>>;
  warnings: string[];
}

/** What the border and the trade have to say about a scenario. */
export function checkFields(scenario: Scenario, now: number): PlanChecks {
  const read = readDto(ScenarioDto, scenario);
  if (!read.ok) {
    const faults: PlanChecks["faults"] = {};
    for (const [path, sentence] of Object.entries(read.fields)) faults[FIELD_OF[path] ?? "title"] ??= sentence;
    return { faults, warnings: [] };
  }
  const problems: ScenarioProblem[] = checkScenario(scenario, now);
  const faults: PlanChecks["faults"] = {};
  for (const { field, sentence, severity } of problems)
    if (severity === "fault") faults[FIELD_OF[field] ?? "title"] ??= sentence;
  return {
    faults,
    warnings: problems.filter(({ severity }) => severity === "warning").map(({ sentence }) => sentence),
  };
}
