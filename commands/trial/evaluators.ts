import { bothEvaluators, bothOnLegs } from "#core/testing/bothEvaluators";
import { RandomScenarios, type RandomCase, type RandomLegs } from "#core/testing/randomScenarios";
import { sized } from "../../bench/size.ts";
import { CommandFault } from "../desk/timing.ts";

/** Two evaluators that share nothing, on random scenarios over mixed resolutions, each third with several entries. */
export function evaluatorsTrial(seed: number): void {
  const random = new RandomScenarios(seed);
  const cases = sized(10_000, 300);
  let [events, ambiguous, traded] = [0, 0, 0];
  for (let n = 0; n < cases; n++) {
    const one = n % 3 === 2 ? random.nextLegs() : random.next();
    const { ours, theirs } = "legs" in one.scenario ? bothOnLegs(one as RandomLegs) : bothEvaluators(one as RandomCase);
    if (rounded(ours) !== rounded(theirs))
      throw new CommandFault(`Case ${n} of seed ${seed}: the two do not agree.\n${JSON.stringify(one.scenario)}`);
    const told = ours.events.flat();
    events += told.length;
    ambiguous += Number(ours.result.ambiguous);
    traded += Number(told.some(({ event }) => event === "entered"));
  }
  process.stdout.write(
    `${cases} scenarios (seed ${seed}): the two agree on all; ` +
      `${events} events, ${traded} entered, ${ambiguous} ambiguous.\n`,
  );
}

/** By the names of fields, and to nine decimals: two ways of adding up may differ in the last bits. */
function rounded(value: unknown): string {
  const plain = JSON.parse(JSON.stringify(value)) as unknown;
  return JSON.stringify(plain, (_key, one: unknown) => {
    if (typeof one === "number") return Math.round(one * 1e9) / 1e9 + 0;
    if (typeof one !== "object" || one === null || Array.isArray(one)) return one;
    return Object.fromEntries(Object.entries(one).sort(([a], [b]) => (a < b ? -1 : 1)));
  });
}
