import { drawBand, firstScaled, shapeOf, type Shape } from "#core/measure/matched";
import { isDecided } from "#core/measure/lift";
import {
  MEASURED_KINDS,
  type BandAtBirth,
  type Born,
  type MeasuredKind,
  type Outcome,
  type OutcomeRules,
} from "#core/measure/measured";
import { OutcomeFollower, type JudgedBars } from "#core/measure/outcomes";
import { drawsOf } from "#core/statistics/intervals";
import { fitLogistic, logistic, logOddsOf, type Case } from "#core/statistics/logistic";

/** Decided findings of a kind before any is graded; fitted anew when there are a quarter more. */
export const LEAST = 60;
const GROWTH = 1.25;
/** Random bands that each decided finding is held against, and bars within which they have to be touched. */
const CONTROLS = 4;
const SEARCHED = 1_000;
/**
 * How strongly weights are held to 0, tried from strong to weak on findings that were decided later than those fitted
 * on; where none of these tells more than no weights at all, nothing has a weight.
 */
const RIDGES = [100, 30, 10] as const;
const LIGHT = 1;
/** Deviations by which weights must tell more than none (one-sided, about one in a hundred by chance). */
const SURE = 2.33;

/** A feature's weight: log odds of being respected, beyond those of a random band of its shape, a deviation of it. */
export interface GradeWeight {
  feature: string;
  weight: number;
  mean: number;
  deviation: number;
}

/** What grades are made of: fitted on what was decided by bar `at`. */
export interface GradeModel {
  at: number;
  /** Decided findings it was fitted on. */
  n: number;
  /** How a random band of a width and distance fares: weights of `shapeTerms`. */
  chance: number[];
  /** Empty where the features told nothing of findings they were not fitted on. */
  weights: GradeWeight[];
}

/** A case with the bar that decided it. */
type Dated = Required<Case> & { at: number };

/** Name of the weight that every finding of a kind has. */
export const ITSELF = "itself";

interface Fitted {
  one: Born;
  outcome: Outcome;
  controls: { shape: Shape; y: 0 | 1 }[];
}

/** What the odds of a random band may depend on: its width and its distance, both in ATR. */
function shapeTerms({ width, distance }: Shape): number[] {
  const [w, d] = [Math.log(width + 0.05), Math.log(distance + 0.05)];
  return [1, w, w * w, d, d * d, w * d];
}

const labelOf = ({ result }: Outcome): 0 | 1 => (result === "respected" ? 1 : 0);

/**
 * Grades that are measured: how much more, or less, often than a random band of its shape a finding of such features
 * was respected when price came back, as a share (0.04: four of a hundred more). Walked forward: a finding born at bar
 * k has a grade of what was decided by bar k alone, and none before sixty of its kind were. Each
 * kind has weights of its own, for what speaks for a zone says nothing of a pivot. Findings in order of `knownAt`, with
 * what became of them over all bars.
 */
export function gradesOf(
  born: readonly Born[],
  outcomes: readonly Outcome[],
  bars: JudgedBars,
  length: number,
  rules: OutcomeRules,
): { grades: (number | undefined)[]; models: Partial<Record<MeasuredKind, GradeModel>> } {
  const first = firstScaled(bars, length);
  const grades = new Array<number | undefined>(born.length);
  const models: Partial<Record<MeasuredKind, GradeModel>> = {};
  for (const kind of MEASURED_KINDS) {
    const own = born.flatMap((one, index) => (one.kind === kind ? [{ one, outcome: outcomes[index], index }] : []));
    const order = own
      .filter(({ outcome }) => isDecided(outcome))
      .sort((a, b) => (a.outcome.at ?? 0) - (b.outcome.at ?? 0) || a.index - b.index);
    const known: Fitted[] = [];
    let [decided, due] = [0, LEAST];
    for (const { one, index } of own) {
      while (decided < order.length && (order[decided].outcome.at ?? 0) <= one.knownAt) decided++;
      if (decided >= due) {
        while (known.length < decided) known.push(withControls(order[known.length], first, bars, rules));
        models[kind] = fitGrade(known, one.knownAt, rules.horizon);
        due = Math.ceil(GROWTH * decided);
      }
      const model = models[kind];
      grades[index] = model && gradeOf(one, model);
    }
  }
  return { grades, models };
}

/** The grade of a finding by a model: its likelihood of being respected less that of a random band of its shape. */
export function gradeOf(one: Born, { chance, weights }: GradeModel): number {
  const offset = logOddsOf({ x: shapeTerms(shapeOf(one)) }, chance);
  const x = weights.map(({ feature, mean, deviation }) => scaled(one, feature, mean, deviation));
  const own = logOddsOf(
    { x, offset },
    weights.map(({ weight }) => weight),
  );
  return logistic(own) - logistic(offset);
}

/** A finding that was decided at bar `at`, with random bands whose outcomes were known by then. */
function withControls(
  { one, outcome, index }: { one: Born; outcome: Outcome; index: number },
  first: number,
  bars: JudgedBars,
  rules: OutcomeRules,
): Fitted {
  const at = outcome.at ?? 0;
  const draw = drawsOf(index + 1);
  const shape = shapeOf(one);
  const from = { first, count: at - rules.horizon - first };
  const controls: Fitted["controls"] = [];
  for (let n = 0; n < CONTROLS && from.count > 0; n++) {
    const band = drawBand(shape, from, bars, draw);
    const became = band && outcomeBy(band, at, bars, rules);
    if (became && isDecided(became)) controls.push({ shape, y: labelOf(became) });
  }
  return { one, outcome, controls };
}

function outcomeBy(band: BandAtBirth, last: number, bars: JudgedBars, rules: OutcomeRules): Outcome {
  const follower = new OutcomeFollower(bars, rules);
  const outcome = follower.add(band);
  const searched = Math.min(last, band.knownAt + SEARCHED);
  for (let i = band.knownAt + 1; i <= last && outcome.at === undefined; i++) {
    if (i > searched && outcome.touchedAt === undefined) break;
    follower.next(i);
  }
  return outcome;
}

function fitGrade(known: readonly Fitted[], at: number, horizon: number): GradeModel {
  const chance = fitChance(known);
  const offsets = known.map(({ one }) => logOddsOf({ x: shapeTerms(shapeOf(one)) }, chance));
  const scales = scalesOf(known.map(({ one }) => one));
  const cases = known.map(({ one, outcome }, i): Dated => ({
    x: scales.map(({ feature, mean, deviation }) => scaled(one, feature, mean, deviation)),
    y: labelOf(outcome),
    offset: offsets[i],
    at: outcome.at ?? 0,
  }));
  const ridge = bestRidge(cases, scales.length, horizon);
  if (ridge === undefined) return { at, n: known.length, chance, weights: [] };
  const weights = fitLogistic(cases, new Array<number>(scales.length).fill(ridge));
  return { at, n: known.length, chance, weights: scales.map((scale, j) => ({ ...scale, weight: weights[j] })) };
}

function fitChance(known: readonly Fitted[]): number[] {
  const cases = known.flatMap(({ controls }) => controls.map(({ shape, y }): Case => ({ x: shapeTerms(shape), y })));
  return fitLogistic(cases, [0, ...new Array<number>(5).fill(LIGHT)]);
}

/**
 * The ridge under which the first part of the cases told most of each later part. None where even that one tells more
 * than no weights only as chance would: what each stretch of `horizon` bars gained adds up to less than `SURE` of its
 * own deviation, for outcomes that overlap in time are not independent.
 */
function bestRidge(cases: readonly Dated[], p: number, horizon: number): number | undefined {
  const parts = [0.5, 0.75].map((share) => Math.floor(share * cases.length));
  let [best, most] = [undefined as number | undefined, 0];
  for (const ridge of RIDGES) {
    const gained = new Map<number, number>();
    parts.forEach((end, n) => {
      const weights = fitLogistic(cases.slice(0, end), new Array<number>(p).fill(ridge));
      for (const one of cases.slice(end, parts[n + 1] ?? cases.length)) {
        const stretch = Math.floor(one.at / horizon);
        const gain = lossOf(one, logistic(one.offset)) - lossOf(one, logistic(logOddsOf(one, weights)));
        gained.set(stretch, (gained.get(stretch) ?? 0) + gain);
      }
    });
    const gains = [...gained.values()];
    const gain = gains.reduce((sum, one) => sum + one, 0);
    if (gain > most && gain > SURE * Math.hypot(...gains)) [best, most] = [ridge, gain];
  }
  return best;
}

const lossOf = ({ y }: Case, likely: number): number => -Math.log(y === 1 ? likely : 1 - likely);

/** Mean and deviation of every feature that differs, and of what all of them have in common: `itself`. */
function scalesOf(known: readonly Born[]): Omit<GradeWeight, "weight">[] {
  const names = [...new Set(known.flatMap(({ features }) => Object.keys(features)))].sort();
  const scales = names.flatMap((feature) => {
    const values = known.map(({ features }) => features[feature]).filter((value) => value !== undefined);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const deviation = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
    return deviation > 1e-9 ? [{ feature, mean, deviation }] : [];
  });
  return [{ feature: ITSELF, mean: 0, deviation: 1 }, ...scales];
}

/** What lies further out than this many deviations counts as so many. */
const FURTHEST = 3;

function scaled({ features }: Born, feature: string, mean: number, deviation: number): number {
  if (feature === ITSELF) return 1;
  const value = features[feature];
  return value === undefined ? 0 : Math.min(FURTHEST, Math.max(-FURTHEST, (value - mean) / deviation));
}
