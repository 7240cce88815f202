import { Fields, ConditionFault } from "#core/conditions/fields";
import { needsOf, readSteps, readTerms, type Terms } from "#core/conditions/registry";
import type { StepTerms } from "#core/conditions/steps";
import { asInstant, type Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";
import type { Scenario } from "#core/scenarios/scenario";
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
  entry: { order: Order; price?: number };
  stop: number;
  targets: readonly { price: number; share: number }[];
  breakEven: Orders["breakEven"];
  /** The stop follows the valid opposite swing of the structure of a rung. */
  trail: { by: "structure"; rung?: string } | null;
  wrong?: number;
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
export function needsOfTerms({ while: holds, if: steps, unless, trail }: ScenarioTerms): Need[] {
  const own: Need[] = trail ? [{ rung: trail.rung, of: "structure" }] : [];
  return [...needsOf([...holds, ...steps.map(({ when }) => when), ...unless]), ...own];
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

/** Terms from untrusted data; `moment` reads an instant. Throws a `ConditionFault` with one sentence. */
export function readScenarioTerms(raw: unknown, moment: (value: unknown, name: string) => number): ScenarioTerms {
  const fields = Fields.of(raw, "scenario");
  const conditions = (name: string) =>
    fields.has(name) ? fields.list(name, 0, 20).map((one, i) => readTerms(one, `scenario.${name}[${i}]`)) : [];
  const terms: ScenarioTerms = {
    direction: fields.oneOf("direction", ["long", "short"]),
    while: conditions("while"),
    if: readSteps(fields, "if", 0),
    unless: conditions("unless"),
    entry: readEntry(fields.at(fields.take("entry"), "entry")),
    stop: fields.price("stop"),
    targets: readTargets(fields),
    breakEven: fields.has("breakEven") ? readBreakEven(fields.at(fields.take("breakEven"), "breakEven")) : null,
    trail: fields.has("trail") ? readTrail(fields.at(fields.take("trail"), "trail")) : null,
    wrong: fields.price("wrong"),
    expires: asInstant(moment(fields.take("expires"), "scenario.expires")),
    ...(fields.has("leastReward") ? { leastReward: fields.number("leastReward", 0) } : {}),
    cost: fields.has("cost") ? fields.number("cost", 0) : 0,
    through: fields.has("through") ? fields.number("through", 0) : 0,
  };
  fields.done();
  return terms;
}

function readEntry(fields: Fields): ScenarioTerms["entry"] {
  const order = fields.oneOf("order", ["market", "limit", "stop"]);
  const price = fields.has("price") || order !== "market" ? { price: fields.price("price") } : {};
  fields.done();
  return { order, ...price };
}

function readTargets(fields: Fields): ScenarioTerms["targets"] {
  const targets = fields.list("targets", 1, 20).map((one, i) => {
    const target = fields.at(one, `targets[${i}]`);
    const read = { price: target.price("price"), share: target.number("share", 0, true) };
    target.done();
    return read;
  });
  const whole = targets.reduce((sum, { share }) => sum + share, 0);
  if (Math.abs(whole - 1) > 1e-9)
    throw new ConditionFault(`The shares of "scenario.targets" sum to ${whole}, not to 1.`);
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
