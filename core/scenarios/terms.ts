import { ConditionFault, Fields, type ReadInstant } from "#core/conditions/fields";
import { isBound, isPrevious, isReward, needsOfPrices, readPrice, type Price } from "#core/conditions/price";
import { needsOf, readSteps, readTerms, type Terms } from "#core/conditions/registry";
import type { StepTerms } from "#core/conditions/steps";
import { asInstant, type Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";
import type { Scenario } from "#core/scenarios/scenario";
import { pricesOf } from "#core/scenarios/prices";
import type { Orders } from "#core/scenarios/trade";

export type Order = "market" | "limit" | "stop";

/** A scenario as it is followed: what must hold, what must come in which order, and what is done then. */
export interface ScenarioTerms {
  direction: "long" | "short";
  /** Each must hold at every close of its own rung until an entry. */
  while: readonly Terms[];
  /** In order; without any the order rests from the beginning. */
  if: readonly StepTerms[];
  /** None may be met before an entry. */
  unless: readonly Terms[];
  entry: { order: Order; price?: Price };
  stop: Price;
  targets: readonly { price: Price; share: number }[];
  breakEven: Orders["breakEven"];
  /** The stop follows the valid opposite swing of the structure of a rung. */
  trail: { by: "structure"; rung?: string } | null;
  wrong?: Price;
  /** An order that has not been filled by then lapses. */
  expires: Instant;
  /** Reward to risk below which it is not taken. */
  leastReward?: number;
  /** Price units a round trip. */
  cost: number;
  /** Ticks by which price must pass a limit or a target within a bar. */
  through: number;
}

/** What must be known of rungs to follow it. */
export function needsOfTerms(terms: ScenarioTerms): Need[] {
  const { while: holds, if: steps, unless, trail } = terms;
  const own: Need[] = trail ? [{ rung: trail.rung, of: "structure" }] : [];
  const prices = needsOfPrices(pricesOf(terms).map(([, price]) => price));
  return [...needsOf([...holds, ...steps.map(({ when }) => when), ...unless]), ...own, ...prices];
}

/** A scenario of the first format: one close, break-even after the first target, wrong at its invalidation. */
export function termsOf(scenario: Scenario): ScenarioTerms {
  const { direction, trigger, entry, stop, targets, invalidation, expiry } = scenario;
  const side = trigger.event === "closeAbove" ? "above" : "below";
  return {
    direction,
    while: [],
    if: [{ when: { on: "close", side, price: trigger.price, rung: trigger.timeframe } }],
    unless: [],
    entry,
    stop,
    targets,
    breakEven: { after: "target" },
    trail: null,
    wrong: invalidation,
    expires: asInstant(expiry),
    cost: 0,
    through: 0,
  };
}

/** What every leg of a scenario shares. */
export type CommonTerms = Omit<ScenarioTerms, "entry" | "stop" | "targets" | "breakEven">;

/** Terms of one leg from untrusted data. Throws a `ConditionFault` with one sentence. */
export function readScenarioTerms(raw: unknown, moment: ReadInstant): ScenarioTerms {
  const fields = readScenarioFields(raw, moment);
  const terms = { ...readCommon(fields), ...readOrder(fields) };
  fields.done();
  checkSteps(terms, "scenario");
  return terms;
}

export function readScenarioFields(raw: unknown, moment: ReadInstant): Fields {
  return Fields.of(raw, "scenario", moment);
}

export function readCommon(fields: Fields): CommonTerms {
  const conditions = (name: string) =>
    fields.has(name)
      ? fields.list(name, 0, 20).map((one, i) => readTerms(one, `${fields.path}.${name}[${i}]`, fields.instant))
      : [];
  return {
    direction: fields.oneOf("direction", ["long", "short"]),
    while: conditions("while"),
    if: fields.has("if") ? readSteps(fields, "if", 0) : [],
    unless: conditions("unless"),
    trail: fields.has("trail") ? readTrail(fields.at(fields.take("trail"), "trail")) : null,
    wrong: readPrice(fields, "wrong", "order"),
    expires: asInstant(fields.moment("expires")),
    ...(fields.has("leastReward") ? { leastReward: fields.number("leastReward", 0) } : {}),
    cost: fields.has("cost") ? fields.number("cost", 0) : 0,
    through: fields.has("through") ? fields.number("through", 0) : 0,
  };
}

/** An order with its stop and its targets. */
export function readOrder(fields: Fields): Pick<ScenarioTerms, "entry" | "stop" | "targets" | "breakEven"> {
  return {
    entry: readEntry(fields.at(fields.take("entry"), "entry")),
    stop: readPrice(fields, "stop", "order"),
    targets: readTargets(fields),
    breakEven: fields.has("breakEven") ? readBreakEven(fields.at(fields.take("breakEven"), "breakEven")) : null,
  };
}

/** A price or a condition speaks of a step that is there, and that comes before it. */
export function checkSteps(terms: ScenarioTerms, path: string): void {
  const { while: holds, if: steps, unless } = terms;
  for (const [field, price] of pricesOf(terms))
    if ((isReward(price) || isPrevious(price)) && steps.length === 0)
      throw new ConditionFault(`"${path}.${field}" is counted when the last step is met; there are no steps.`);
    else if (isBound(price) && price.step > steps.length)
      throw new ConditionFault(`"${path}.${field}" speaks of step ${price.step}; there are ${steps.length}.`);
  steps.forEach(({ when }, i) => {
    const late = stepsSpokenOf(when).find((step) => step > i);
    if (late !== undefined)
      throw new ConditionFault(`"${path}.if[${i}]" speaks of step ${late}, not of one before it.`);
  });
  for (const [name, list] of Object.entries({ while: holds, unless }))
    if (list.some((one) => stepsSpokenOf(one).length > 0))
      throw new ConditionFault(`"${path}.${name}" speaks of a step; only steps can.`);
}

/** Steps that a condition, or a part of it, speaks of. */
function stepsSpokenOf(of: Terms): number[] {
  if (of.on === "beyondBar") return [of.of];
  if (of.on === "all" || of.on === "any" || of.on === "not") return of.of.flatMap(stepsSpokenOf);
  if (of.on === "then") return of.of.flatMap(({ when }) => stepsSpokenOf(when));
  if (of.on === "market") return stepsSpokenOf(of.when);
  return "price" in of && of.price !== undefined && isBound(of.price) ? [of.price.step] : [];
}

function readEntry(fields: Fields): ScenarioTerms["entry"] {
  const order = fields.oneOf("order", ["market", "limit", "stop"]);
  const price = fields.has("price") || order !== "market" ? { price: readPrice(fields, "price", "order") } : {};
  fields.done();
  return { order, ...price };
}

function readTargets(fields: Fields): ScenarioTerms["targets"] {
  const targets = fields.list("targets", 1, 20).map((one, i) => {
    const target = fields.at(one, `targets[${i}]`);
    const read = { price: readPrice(target, "price", "target"), share: target.number("share", 0, true) };
    target.done();
    return read;
  });
  const whole = targets.reduce((sum, { share }) => sum + share, 0);
  if (Math.abs(whole - 1) > 1e-9)
    throw new ConditionFault(`The shares of "${fields.path}.targets" sum to ${whole}, not to 1.`);
  return targets;
}

function readBreakEven(fields: Fields): NonNullable<Orders["breakEven"]> {
  const read = fields.has("r") ? { r: fields.number("r", 0, true) } : { after: fields.oneOf("after", ["target"]) };
  fields.done();
  return read;
}

function readTrail(fields: Fields): NonNullable<ScenarioTerms["trail"]> {
  const read = { by: fields.oneOf("by", ["structure"]), ...fields.rung() };
  fields.done();
  return read;
}
