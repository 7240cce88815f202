import { beyondBar, type BeyondBarTerms } from "#core/conditions/beyondBar";
import { candle, type CandleTerms } from "#core/conditions/candle";
import { close, type CloseTerms } from "#core/conditions/close";
import { columns, type ColumnsTerms } from "#core/conditions/columns";
import { allOf, anyOf, notOf, type CombineTerms } from "#core/conditions/combine";
import type { Condition, Kinds, Look } from "#core/conditions/condition";
import { ConditionFault, Fields, type ReadInstant } from "#core/conditions/fields";
import { hold, type HoldTerms } from "#core/conditions/hold";
import {
  average,
  cloud,
  oscillator,
  type AverageTerms,
  type CloudTerms,
  type OscillatorTerms,
} from "#core/conditions/indicator";
import { leave, type LeaveTerms } from "#core/conditions/leave";
import { marketOf, type MarketTerms } from "#core/conditions/market";
import { pattern, type PatternTerms } from "#core/conditions/pattern";
import { shift, type ShiftTerms } from "#core/conditions/shift";
import { advanceSteps, beginSteps, type StepsState, type StepTerms } from "#core/conditions/steps";
import { study, type StudyConditionTerms } from "#core/conditions/study";
import { sweep, type SweepTerms } from "#core/conditions/sweep";
import { sayInOrder, stepsFrom, thenOf, type ThenTerms } from "#core/conditions/then";
import { time, type TimeTerms } from "#core/conditions/time";
import { touch, type TouchTerms } from "#core/conditions/touch";
import type { MarketFacts } from "#core/marks/kind";
import type { Instant } from "#core/observe/instant";
import type { Need } from "#core/observe/tape";

export type Terms =
  | AverageTerms
  | BeyondBarTerms
  | CandleTerms
  | CloseTerms
  | CombineTerms<"all">
  | CombineTerms<"any">
  | CombineTerms<"not">
  | CloudTerms
  | ColumnsTerms
  | HoldTerms
  | LeaveTerms
  | MarketTerms
  | OscillatorTerms
  | PatternTerms
  | ShiftTerms
  | StudyConditionTerms
  | SweepTerms
  | ThenTerms
  | TimeTerms
  | TouchTerms;

type AnyCondition = Condition<Terms, unknown>;

const KINDS: Kinds = { of: conditionOf, read: (raw, path, fields) => readTerms(raw, path, fields.instant) };

/** Every kind of condition, once: one without an entry, or an entry without a part, does not compile. */
const CONDITIONS: { readonly [On in Terms["on"]]: Condition<Extract<Terms, { on: On }>, unknown> } = {
  average,
  beyondBar,
  candle,
  close,
  cloud,
  columns,
  hold,
  leave,
  oscillator,
  pattern,
  shift,
  study,
  sweep,
  time,
  touch,
  all: allOf(KINDS),
  any: anyOf(KINDS),
  not: notOf(KINDS),
  then: thenOf(KINDS),
  market: marketOf(KINDS),
};

const conditions = Object.values(CONDITIONS) as unknown as readonly AnyCondition[];

export function conditionOf({ on }: Terms): AnyCondition {
  const found = conditions.find((one) => one.on === on);
  if (!found) throw new RangeError(`There is no condition "${on}".`);
  return found;
}

/** How deep conditions may be made of others. */
const DEEPEST = 6;

/** Terms of a condition from untrusted data; throws a `ConditionFault` with one sentence. */
export function readTerms(raw: unknown, path: string, instant?: ReadInstant): Terms {
  if (path.split(".of[").length > DEEPEST) throw new ConditionFault(`"${path}" lies more than ${DEEPEST} deep.`);
  const fields = Fields.of(raw, path, instant);
  const on = fields.take("on");
  const condition = conditions.find((one) => one.on === on);
  if (!condition) return fields.fault("on", `must be one of ${conditions.map((one) => one.on).join(", ")}`);
  const terms = condition.read(fields);
  fields.done();
  return terms;
}

export function needsOf(of: readonly Terms[]): Need[] {
  return of.flatMap((terms) => [...conditionOf(terms).needs(terms)]);
}

/** Steps of a scenario from untrusted data. */
export function readSteps(fields: Fields, name: string, least: number): StepTerms[] {
  return stepsFrom(KINDS, fields, name, least);
}

export function startSteps(steps: readonly StepTerms[], since: Instant): StepsState {
  return beginSteps(KINDS, steps, since);
}

export function nextStep(
  steps: readonly StepTerms[],
  state: StepsState,
  look: Omit<Look, "since" | "met">,
): ReturnType<typeof advanceSteps> {
  return advanceSteps(KINDS, steps, state, look);
}

/** "a 4 h candle closes above 404.10, then within 10 bars price touches 402.00". */
export function saySteps(steps: readonly StepTerms[], market: Pick<MarketFacts, "decimals">): string {
  return sayInOrder(KINDS, steps, market);
}
