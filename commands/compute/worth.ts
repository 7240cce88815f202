import { birthsOf } from "#core/measure/births";
import { gradesOf } from "#core/measure/grade";
import { LIFT_DRAWS, liftOf } from "#core/measure/lift";
import { MEASURED_KINDS, OUTCOME_RULES, type MeasuredKind, type OutcomeRules } from "#core/measure/measured";
import { outcomesOf } from "#core/measure/outcomes";
import { formatTimeframe, type Timeframe } from "#core/time/timeframe";
import { RequestFault } from "./fault.ts";
import { oneOf, raw, readNumber, upTo, type Parameter } from "./parameters.ts";
import { timeText, type Params, type Quantity } from "./quantity.ts";
import { asFields, closedSeries, readTimeframeField, type Input } from "./request.ts";

const MOST_BARS = 10_000;
const MOST_AWAY = 100;

const outcome: Parameter = {
  name: "outcome",
  type: "{ horizon 40 (whole number from 1 to 10,000), away 1 (above 0, at most 100) }",
  fallback: {},
  read(value): OutcomeRules {
    const { horizon, away } = { ...OUTCOME_RULES, ...asFields(value, "outcome", ["horizon", "away"]) };
    if (!Number.isInteger(horizon) || horizon < 1 || horizon > MOST_BARS)
      throw new RequestFault(`"outcome.horizon" must be a whole number from 1 to 10,000.`);
    if (!(readNumber(away, "outcome.away") > 0 && away <= MOST_AWAY))
      throw new RequestFault(`"outcome.away" must be above 0 and at most 100.`);
    return { horizon, away };
  },
};

/** A list of names, each once; nothing where it is left out. */
function listOf<T>(name: string, type: string, readOne: (one: unknown, place: string) => T): Parameter {
  return {
    ...raw(name, type, null),
    read(value) {
      if (value === null) return null;
      if (!Array.isArray(value) || value.length === 0) throw new RequestFault(`"${name}" must be a list of ${type}.`);
      return value.map((one, i) => readOne(one, `${name}[${i}]`));
    },
  };
}

const timeframes = listOf("timeframes", "ISO 8601 durations", readTimeframeField);
const kinds = listOf("kinds", `names: ${MEASURED_KINDS.join(", ")}`, (one, place) => {
  const kind = MEASURED_KINDS.find((name) => name === one);
  if (!kind) throw new RequestFault(`"${place}" must be one of ${MEASURED_KINDS.join(", ")}.`);
  return kind;
});

/** What findings were worth: each at its birth with what became of it, and a kind of them against random bands. */
export const worth: readonly Quantity[] = [
  {
    name: "findings",
    says: "every finding of the past at its birth, and what became of it when price first came back",
    parameters: [timeframes, kinds, outcome],
    fields: ["timeframe", "kind", "side", "bottom", "top", "knownAt", "features", "outcome", "grade"],
    values(params, input) {
      const asked = (params.timeframes as Timeframe[] | null) ?? [input.timeframe];
      const wanted = params.kinds as MeasuredKind[] | null;
      const names = asked.map(formatTimeframe);
      return asked
        .filter((_, i) => names.indexOf(names[i]) === i)
        .flatMap((timeframe) => rowsOf(input, timeframe, params.outcome as OutcomeRules))
        .filter(({ kind }) => !wanted || wanted.includes(kind as MeasuredKind));
    },
  },
  {
    name: "lift",
    says: "how often findings of a kind were respected, against random bands of the same side, width and distance",
    parameters: [
      oneOf("kind", MEASURED_KINDS),
      outcome,
      upTo("draws", LIFT_DRAWS.draws, 1_000),
      // Seeds are of 32 bits.
      upTo("seed", LIFT_DRAWS.seed, 4_294_967_295),
    ],
    fields: [
      ...["kind", "timeframe", "n", "open", "untouched", "share", "interval", "effective", "chance"],
      ...["lift", "liftInterval"],
    ],
    values({ kind, outcome: rules, draws, seed }, input) {
      const { timeframe, calendar } = input;
      const series = closedSeries(input, timeframe);
      const { born, bars } = birthsOf(series, timeframe, calendar, input.tick());
      const own = born.filter((one) => one.kind === kind);
      const read = { outcome: rules as OutcomeRules, draws: draws as number, seed: seed as number };
      return [{ kind, timeframe: formatTimeframe(timeframe), ...liftOf(own, bars, series.length, read) }];
    },
  },
];

function rowsOf(input: Input, timeframe: Timeframe, rules: OutcomeRules): Params[] {
  const series = closedSeries(input, timeframe);
  const { born, bars } = birthsOf(series, timeframe, input.calendar, input.tick());
  const outcomes = outcomesOf(born, bars, series.length, rules);
  const { grades } = gradesOf(born, outcomes, bars, series.length, rules);
  const text = (i: number) => timeText(series.time[i], timeframe);
  return born.map(({ kind, side, bottom, top, knownAt, features }, i) => {
    const { result, touchedAt, at } = outcomes[i];
    return {
      timeframe: formatTimeframe(timeframe),
      ...{ kind, side, bottom, top, knownAt: text(knownAt), features },
      outcome: {
        result,
        ...(touchedAt === undefined ? {} : { touchedAt: text(touchedAt) }),
        ...(at === undefined ? {} : { at: text(at) }),
      },
      ...(grades[i] === undefined ? {} : { grade: grades[i] }),
    };
  });
}
