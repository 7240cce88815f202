import { ConditionFault, type Fields, type ReadInstant } from "#core/conditions/fields";
import { readSteps } from "#core/conditions/registry";
import { LEG_EVENTS, type Leg, type WholeTerms } from "#core/scenarios/legs";
import { checkSteps, readCommon, readOrder, readScenarioFields } from "#core/scenarios/terms";

/** A scenario of one leg or of several from untrusted data. Throws a `ConditionFault` with one sentence. */
export function readWholeTerms(raw: unknown, moment: ReadInstant): WholeTerms {
  const fields = readScenarioFields(raw, moment);
  if (!fields.has("legs")) {
    const terms = { ...readCommon(fields), ...readOrder(fields) };
    fields.done();
    checkSteps(terms, "scenario");
    return terms;
  }
  const common = readCommon(fields);
  const legs = fields.list("legs", 1, 10).map((one, i) => readLeg(fields.at(one, `legs[${i}]`)));
  fields.done();
  const whole = legs.reduce((sum, { risk }) => sum + risk, 0);
  if (Math.abs(whole - 1) > 1e-9) throw new ConditionFault(`The risks of "scenario.legs" sum to ${whole}, not to 1.`);
  legs.forEach((leg, i) => {
    checkSteps({ ...common, ...leg, if: [...common.if, ...leg.if] }, `scenario.legs[${i}]`);
    if (leg.after && (leg.after.leg > legs.length || waitsForItself(legs, i)))
      throw new ConditionFault(`"scenario.legs[${i}].after" must name another leg, and none that waits for this one.`);
  });
  return { ...common, legs };
}

function readLeg(fields: Fields): Leg {
  const leg: Leg = {
    if: fields.has("if") ? readSteps(fields, "if", 0) : [],
    ...readOrder(fields),
    risk: fields.number("risk", 0, true),
    ...(fields.has("after") ? { after: readAfter(fields.at(fields.take("after"), "after")) } : {}),
  };
  fields.done();
  return leg;
}

function readAfter(fields: Fields): NonNullable<Leg["after"]> {
  const read = { leg: fields.whole("leg", 1, 10), event: fields.oneOf("event", LEG_EVENTS) };
  fields.done();
  return read;
}

function waitsForItself(legs: readonly Leg[], from: number): boolean {
  const seen = new Set<number>();
  for (let i = from; ;) {
    if (seen.has(i)) return true;
    seen.add(i);
    const next = legs[i]?.after;
    if (!next) return false;
    i = next.leg - 1;
  }
}
