import { plainScenario, type PlainEvent, type PlainResult, type PlainScenario } from "#core/testing/plainScenario";
import { plainTold, type PlainLayer } from "#core/testing/plainTold";

export interface PlainLeg extends Pick<PlainScenario, "entry" | "stop" | "targets" | "breakEven" | "order"> {
  if: PlainScenario["if"];
  risk: number;
  after?: { leg: number; event: "entered" | "target" | "stopped" };
}

export interface PlainLegs {
  shared: PlainScenario;
  legs: PlainLeg[];
}

interface Outcome {
  events: PlainEvent[];
  result: PlainResult;
  /** The told bar after which nothing can come any more. */
  endedAt?: number;
}

const NEVER = { r: 0, best: 0, worst: 0, ambiguous: false };

/** Every leg as a scenario of its own, one after the other as they wait for each other. */
export function plainLegs(
  layers: readonly PlainLayer[],
  { shared, legs }: PlainLegs,
): { events: PlainEvent[][]; result: PlainResult } {
  const told = plainTold(layers);
  const known = new Map<number, Outcome>();
  const outcome = (n: number): Outcome => {
    const had = known.get(n);
    if (had) return had;
    const made = follow(legs[n]);
    known.set(n, made);
    return made;
  };
  const follow = ({ after, risk: _, if: own, ...order }: PlainLeg): Outcome => {
    const scenario = { ...shared, ...order, if: [...shared.if, ...own] };
    if (!after) return plainScenario(layers, scenario);
    const other = outcome(after.leg - 1);
    const happened = other.events.find(({ event }) => event === after.event);
    if (happened) return plainScenario(layers, { ...scenario, since: happened.knownAt });
    if (other.endedAt === undefined) return { events: [], result: { ...NEVER, state: "waiting" } };
    const { from, to, close } = told[other.endedAt];
    const events = [{ event: "cancelled", at: from, knownAt: to, price: close }];
    return { events, result: { ...NEVER, state: "done" }, endedAt: other.endedAt };
  };
  const outcomes = legs.map((_, n) => outcome(n));
  const blend = (of: (result: PlainResult) => number) =>
    outcomes.reduce((sum, { result }, n) => sum + legs[n].risk * of(result), 0);
  const ambiguous = outcomes.some(({ result }) => result.ambiguous);
  const furthest = ["open", "armed", "waiting", "done"];
  return {
    events: outcomes.map(({ events }) => events),
    result: {
      r: blend(({ r }) => r),
      ...(ambiguous ? { rBest: blend(({ r, rBest = r }) => rBest) } : {}),
      best: blend(({ best }) => best),
      worst: blend(({ worst }) => worst),
      ambiguous,
      state: furthest.find((state) => outcomes.some(({ result }) => result.state === state)) ?? "done",
    },
  };
}
