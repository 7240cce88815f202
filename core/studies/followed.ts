import type { Series } from "#core/series/series";
import type { Study, StudyContext, StudyParams, StudyRun } from "#core/studies/study";

/** Bars up to which a study is worked out anew for the one that is still being made. */
const SHORT = 20_000;

/**
 * A study that follows a series: its columns grow by the bars that have closed, each at the cost of one bar. The bar
 * that is still being made has a value on short series; on long ones (over 20,000 bars) it has none until it closes.
 */
export class FollowedStudy {
  private run: StudyRun;
  private closed = 0;
  private room: Float64Array[];

  constructor(
    readonly study: Study,
    readonly params: StudyParams,
    private readonly context: StudyContext,
  ) {
    this.run = study.begin(params, context);
    this.room = study.lines.map(() => new Float64Array(64));
  }

  /** One column a line over all bars of `series`, which begins with those it was told before. */
  follow(series: Series, unfinished: boolean): readonly Float64Array[] {
    const until = series.length - (unfinished ? 1 : 0);
    if (this.room[0].length < series.length)
      this.room = this.room.map((before) => {
        const wider = new Float64Array(Math.max(series.length, 2 * before.length));
        wider.set(before);
        return wider;
      });
    for (; this.closed < until; this.closed++) this.keep(this.run(series, this.closed), this.closed);
    if (unfinished && series.length > 0) this.keep(this.provisional(series), series.length - 1);
    return this.room.map((column) => column.subarray(0, series.length));
  }

  private provisional(series: Series): readonly number[] {
    if (series.length > SHORT) return this.study.lines.map(() => NaN);
    const run = this.study.begin(this.params, this.context);
    let values: readonly number[] = [];
    for (let i = 0; i < series.length; i++) values = run(series, i);
    return values;
  }

  private keep(values: readonly number[], i: number): void {
    for (let n = 0; n < this.room.length; n++) this.room[n][i] = values[n];
  }
}
