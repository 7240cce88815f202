import type { Series } from "#core/series/series";

/** Bars as a study reads them: a series, or one that is still growing. */
export type Bars = Pick<Series, "time" | "open" | "high" | "low" | "close" | "volume">;

/** What a parameter may be; the bounds are part of it, so that page, API and command refuse the same. */
export type StudyParameter =
  | {
      name: string;
      kind: "whole";
      least: number;
      most: number;
      fallback?: number;
      /** What a chart begins with where nothing stands in for it. */
      usual?: number;
    }
  /** A number above `above`. */
  | { name: string; kind: "number"; above: number; fallback?: number }
  | { name: string; kind: "choice"; of: readonly string[]; fallback: string }
  /** A timeframe of a day or longer, as an ISO 8601 duration. */
  | { name: string; kind: "period"; fallback: string }
  /** A time (ms UTC); `fallback` "first": that of the first bar. */
  | { name: string; kind: "time"; fallback?: "first" }
  /** Another market's bars. */
  | { name: string; kind: "market" };

export type StudyParams = Readonly<Record<string, number | string>>;

/** What a line of a study is measured in. */
export type StudyUnit = "price" | "hundred" | "share" | "atr" | "volume" | "ratio" | "flag" | "number";

/** How a line is drawn, in ink of another weight and pattern; `none` is for figures that are read beside it. */
export type LineInk = "main" | "second" | "third" | "edge" | "columns" | "none";

export interface StudyLine {
  name: string;
  unit: StudyUnit;
  /** `main` where it is left out. */
  ink?: LineInk;
  /** The parameter that says how many bars later than its own it is drawn. */
  ahead?: string;
}

/** What a study may ask besides the bars. */
export interface StudyContext {
  tick: number;
  /** Bars of another market, where the study reads one. */
  other?: Series;
  /** Number of the period that a bar's time falls into, where the study reads one: equal within a period, rising. */
  periodAt?(time: number): number;
}

/**
 * A study while it follows bars: it is called once for every bar in order, with the bars as they are then (they may
 * have grown into other arrays), and gives the value of each line there, NaN where it is not defined. The array is the
 * study's own and is written anew by the next call. A bar costs as much at a million bars as at a hundred.
 */
export type StudyRun = (bars: Bars, i: number) => readonly number[];

export interface Study {
  name: string;
  /** As the trade calls it, and the same where there is little room. */
  title: string;
  short: string;
  says: string;
  source: string;
  parameters: readonly StudyParameter[];
  lines: readonly StudyLine[];
  /** Whether its lines stand among the prices, or on a scale of their own; with bounds where it has some. */
  place: "price" | "own" | readonly [least: number, most: number];
  /** Values that are looked out for, lowest first. */
  levels?: readonly number[];
  /** The line that is read; the first where it is left out. */
  main?: string;
  /** Two lines that are compared: which is above the other is part of the reading. */
  against?: readonly [string, string];
  /** Two lines with a pale band between. */
  between?: readonly [string, string];
  /** Its values hold for whole periods: lines end where a period does. */
  steps?: true;
  /** Its lines are an open, a high, a low and a close: they are drawn as candles. */
  candles?: true;
  begin(params: StudyParams, context: StudyContext): StudyRun;
}

/** A study over a whole series: one column a line, in the order of its lines. */
export function columnsOf(study: Study, params: StudyParams, series: Series, context: StudyContext): Float64Array[] {
  const next = study.begin(params, context);
  const out = study.lines.map(() => new Float64Array(series.length));
  for (let i = 0; i < series.length; i++) {
    const values = next(series, i);
    for (let n = 0; n < out.length; n++) out[n][i] = values[n];
  }
  return out;
}

/** The columns a study may be taken of, with what it is taken of usually. */
export const OF: StudyParameter = {
  name: "of",
  kind: "choice",
  of: ["open", "high", "low", "close", "volume"],
  fallback: "close",
};

/** More bars than anybody holds. */
export const MOST_BARS = 1e7;

export function whole(name: string, fallback?: number, least = 1, most = MOST_BARS): StudyParameter {
  return { name, kind: "whole", least, most, ...(fallback === undefined ? {} : { fallback }) };
}

/** A span that has to be said, with the one a chart begins with. */
export function usually(name: string, usual: number): StudyParameter {
  return { name, kind: "whole", least: 1, most: MOST_BARS, usual };
}

export function above0(name: string, fallback: number): StudyParameter {
  return { name, kind: "number", above: 0, fallback };
}

/** A study of one line that is worked out value by value, of the column that `of` names. */
export const ofValues =
  (step: (value: number) => number, { of }: StudyParams): StudyRun =>
  (bars, i) => [step(bars[of as keyof Bars][i])];

/** A study of one line that is worked out bar by bar. */
export const ofBars =
  (next: (bars: Bars, i: number) => number): StudyRun =>
  (bars, i) => [next(bars, i)];
