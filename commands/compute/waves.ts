import { projection, PROJECTION_RATIOS } from "#core/projections/projection";
import { DEGREES, degreeBelow, type Degree } from "#core/waves/degrees";
import { PATTERNS } from "#core/waves/patterns";
import { bestCounts, COUNTING, type CountProposal, type Pin } from "#core/waves/proposals";
import { SpanCounter, SPANNING, type Span } from "#core/waves/spans";
import { checkTree, STRICT } from "#core/waves/rules";
import { nestedStatements } from "#core/waves/statements";
import { targetsOf } from "#core/waves/targets";
import { isComplete, spine, type LengthScale, type Wave } from "#core/waves/wave";
import type { Series } from "#core/series/series";
import type { Timeframe } from "#core/time/timeframe";
import { RequestFault } from "./fault.ts";
import { oneOf, ratios, raw, readPoint, upTo, whole, type Parameter } from "./parameters.ts";
import { timeText, type Params, type Quantity } from "./quantity.ts";
import { asFields, readMoment } from "./request.ts";

/** Bars on each side of a turn: none is a number, too. */
const sides: Parameter = {
  name: "k",
  type: "whole number from 0",
  fallback: COUNTING.k,
  read(value) {
    if (typeof value !== "number" || !Number.isInteger(value) || value < 0 || value > 50)
      throw new RequestFault(`"k" must be a whole number from 0 to 50.`);
    return value;
  },
};

const MOST_SWINGS = 400;
const MOST_DEGREES = 5;
const MOST_COUNTS = 50;
const MOST_SPANS = 9;
const MOST_WALKED = 500;

/** Counts of waves by machine, and the projection of a leg from a third point. */
export const waves: readonly Quantity[] = [
  {
    name: "projection",
    says: "prices at multiples of a leg, laid off from a third point",
    parameters: [
      raw("from", "{ time, price }"),
      raw("to", "{ time, price }"),
      raw("origin", "{ time, price }"),
      ratios("ratios", PROJECTION_RATIOS),
    ],
    fields: ["ratio", "price"],
    withoutBars: true,
    values: ({ from, to, origin, ratios: asked }, { zone }) =>
      projection(
        readPoint(from, "from", zone),
        readPoint(to, "to", zone),
        readPoint(origin, "origin", zone),
        asked as number[],
      ),
  },
  {
    name: "waves",
    says: "the likeliest counts of waves, complete or in progress, several degrees deep",
    parameters: [
      whole("degrees", COUNTING.degrees),
      whole("best", 5),
      sides,
      raw("pinned", "list of { time, label } and, if it is said, degree", []),
      whole("swings", COUNTING.swings),
      oneOf("degree", DEGREES, "Intermediate"),
      oneOf("scale", ["arithmetic", "log"], COUNTING.scale),
    ],
    fields: ["score", "parts", "root", "rules", "killPrice", "killSide", "killRule", "projections"],
    values(params, { series, timeframe, zone }) {
      const [degrees, best, swings] = [params.degrees, params.best, params.swings] as number[];
      if (degrees > MOST_DEGREES || best > MOST_COUNTS || swings > MOST_SWINGS || swings < 4)
        throw new RequestFault(
          `"degrees" is at most ${MOST_DEGREES}, "best" at most ${MOST_COUNTS}, "swings" from 4 to ${MOST_SWINGS}.`,
        );
      const scale = params.scale as LengthScale;
      if (scale === "log" && series.low.some((low) => low <= 0))
        throw new RequestFault("On the log scale every price must be above zero.");
      const degree = params.degree as Degree;
      const counts = bestCounts(series, {
        ...COUNTING,
        degrees,
        best,
        swings,
        scale,
        k: params.k as number,
        pins: readPins(params.pinned, degree, zone),
      });
      return counts.map((count) => rowOf(count, degree, scale, timeframe));
    },
  },
  {
    name: "wavesBySpan",
    says: "counts of the whole view and from the last turn of each smaller degree on, with odds, bar by bar",
    parameters: [
      upTo("degrees", SPANNING.degrees, MOST_DEGREES),
      upTo("best", SPANNING.best, MOST_COUNTS),
      upTo("spans", SPANNING.spans, MOST_SPANS),
      upTo("last", 1, MOST_WALKED),
    ],
    fields: ["time", "spans"],
    values({ degrees, best, spans, last }, { series, timeframe }) {
      if (series.low.some((low) => low <= 0))
        throw new RequestFault("Spans are counted in logs of prices: every price must be above zero.");
      const options = { degrees: degrees as number, best: best as number, spans: spans as number };
      const counter = new SpanCounter(series, options);
      const first = Math.max(0, series.length - (last as number));
      return Array.from({ length: series.length - first }, (_, n) => ({
        time: timeText(series.time[first + n], timeframe),
        spans: counter.at(first + n).map((span) => spanRow(span, series, timeframe)),
      }));
    },
  },
];

function spanRow({ from, to, degree, none, counts, why }: Span, series: Series, timeframe: Timeframe): Params {
  const told = counts.map(({ root, odds, kill, also, parts }) => ({
    odds,
    root: rootOf(root, degree, timeframe),
    ...{ killPrice: kill.price, killSide: kill.side, also },
    ...(parts === undefined ? {} : { parts }),
  }));
  return {
    from: timeText(series.time[from], timeframe),
    to: timeText(series.time[to], timeframe),
    ...{ degree, none, counts: told },
    ...(why === undefined ? {} : { why }),
  };
}

function readPins(value: unknown, root: Degree, zone: string): Pin[] {
  if (!Array.isArray(value) || value.length > 20)
    throw new RequestFault(`"pinned" must be a list of at most 20 { time, label }.`);
  return value.map((one, i) => {
    const { time, label, degree } = asFields(one, `pinned[${i}]`, ["time", "label", "degree"]);
    if (typeof label !== "string" || !/^[1-5A-EW-Z]$/.test(label))
      throw new RequestFault(`"pinned[${i}].label" must be one of 1 to 5, A to E, W to Z.`);
    const below =
      degree === undefined ? undefined : DEGREES.findIndex((name) => name === degree) - DEGREES.indexOf(root);
    if (below !== undefined && below < 0)
      throw new RequestFault(`"pinned[${i}].degree" must be ${root} or one below it.`);
    return { time: readMoment(time, `pinned[${i}].time`, zone), label, ...(below === undefined ? {} : { below }) };
  });
}

function rowOf(
  { root, score, parts }: CountProposal,
  degree: Degree,
  scale: LengthScale,
  timeframe: Timeframe,
): Params {
  const options = { ...STRICT, scale };
  const kill = nestedStatements(root, options).find(({ asserted, at }) => asserted && at.length === 0);
  const rules = checkTree(root, options).flatMap(({ at, rules: own }) =>
    own.map(({ rule, holds, numbers }) => ({
      rule,
      holds,
      numbers,
      ...(at.length > 0 ? { inside: labelsOf(root, at) } : {}),
    })),
  );
  const projections = spine(root).flatMap(({ wave, at }) =>
    wave.pivots.length > 1
      ? targetsOf(wave, options).map((target) => ({ ...target, degree: degreeOf(degree, at.length) }))
      : [],
  );
  return {
    score,
    parts,
    root: rootOf(root, degree, timeframe),
    rules,
    ...(kill ? { killPrice: kill.killPrice, killSide: kill.killSide, killRule: kill.killRule } : {}),
    projections,
  };
}

/** A root with what it is made of and the label of the wave in progress. */
function rootOf(root: Wave, degree: Degree, timeframe: Timeframe): Params {
  const open = isComplete(root) ? {} : { wave: PATTERNS[root.pattern].labels[root.pivots.length - 1] };
  return { ...nodeOf(root, degree, timeframe), ...open };
}

const degreeOf = (degree: Degree, below: number): Degree => degreeBelow(degree, below) ?? DEGREES[DEGREES.length - 1];

/** A wave with those it is made of; one of whose inside nothing is said is a "leg". */
function nodeOf({ pattern, pivots, inner }: Wave, degree: Degree, timeframe: Timeframe): Params {
  const { labels } = PATTERNS[pattern];
  const point = (i: number) => ({ time: timeText(pivots[i].time, timeframe), price: pivots[i].price });
  const complete = isComplete({ pattern, pivots });
  return {
    pattern,
    degree,
    complete,
    start: point(0),
    ...(complete ? { end: point(pivots.length - 1) } : {}),
    children: labels.slice(0, pivots.length).map((label, i) => {
      const own = inner[i]
        ? nodeOf(inner[i], degreeOf(degree, 1), timeframe)
        : {
            pattern: "leg",
            degree: degreeOf(degree, 1),
            complete: i + 1 < pivots.length,
            start: point(i),
            children: [],
          };
      return { ...own, wave: label, ...(i + 1 < pivots.length ? { end: point(i + 1) } : {}) };
    }),
  };
}

/** "3 1": the first of the third. */
function labelsOf(root: Wave, at: readonly number[]): string {
  let wave: Wave | undefined = root;
  return at
    .map((i) => {
      const label = wave ? PATTERNS[wave.pattern].labels[i] : "";
      wave = wave?.inner[i];
      return label;
    })
    .join(" ");
}
