import { Bands } from "#core/levels/bands";
import { Clusters } from "#core/levels/clusters";
import { EqualLevels } from "#core/levels/equal";
import { FurthestSince } from "#core/series/furthest";
import type { Bar, Series } from "#core/series/series";
import { PatternDetector } from "#core/patterns/detector";
import { run, Track, type Detector } from "#core/series/track";
import { StructureDetector } from "#core/structure/structure";
import { SwingDetector } from "#core/structure/swingDetector";
import type { Calendar } from "#core/time/calendar";
import { pausesOf } from "#core/time/pauses";
import { formatTimeframe, isIntraday, type Timeframe } from "#core/time/timeframe";
import { BaseDetector } from "#core/zones/bases";
import { GapDetector } from "#core/zones/gaps";
import { OpeningGapDetector } from "#core/zones/openingGaps";
import { OrderBlockDetector } from "#core/zones/orderBlocks";
import { RangeDetector } from "#core/zones/ranges";
import { FINDING_DEFAULTS, type FindingParams } from "./params";

/**
 * Every detector over the bars of one rung, told of each closed bar once. Cost: O(1) to O(log n) a bar each; nothing is
 * run again when a bar is added.
 */
export class RungReader {
  readonly track: Track;
  readonly swings: SwingDetector;
  readonly structure: StructureDetector;
  readonly bases: BaseDetector;
  readonly orderBlocks: OrderBlockDetector;
  readonly ranges: RangeDetector;
  readonly gaps: GapDetector;
  readonly openingGaps: OpeningGapDetector;
  readonly equal: EqualLevels;
  readonly clusters: Clusters;
  readonly patterns: PatternDetector;
  readonly rung: string;
  private readonly detectors: readonly Detector[];

  constructor(
    series: Series,
    readonly timeframe: Timeframe,
    readonly calendar: Calendar,
    tick: number,
    readonly params: FindingParams = FINDING_DEFAULTS,
  ) {
    const { k, quiet, longest, departure, within, rangeBars, rangeHeight, equal } = params;
    this.rung = formatTimeframe(timeframe);
    const track = (this.track = new Track(series, tick));
    const bands = new Bands(track);
    const extremes = { lowest: new FurthestSince(track, "low"), highest: new FurthestSince(track, "high") };
    const pause = pausesOf(track, timeframe, calendar);
    this.swings = new SwingDetector(track, { k, ties: "last" });
    this.structure = new StructureDetector(track, this.swings, k);
    this.bases = new BaseDetector(track, bands, { quiet, longest, departure, within });
    this.orderBlocks = new OrderBlockDetector(track, this.structure, extremes, bands);
    this.ranges = new RangeDetector(track, bands, { least: rangeBars, height: rangeHeight });
    // Between the bars of days the market is closed anyhow: there only a whole day without trade counts.
    this.gaps = new GapDetector(track, (i) => pause(i) === "days" || (pause(i) === "closed" && isIntraday(timeframe)));
    this.openingGaps = new OpeningGapDetector(track, this.structure, pausesOf(track, timeframe, calendar));
    this.equal = new EqualLevels(track, this.swings, equal);
    this.clusters = new Clusters(track, this.swings);
    this.patterns = new PatternDetector(track);
    // What is found at a bar is followed from the next one on: bands and extremes come first.
    this.detectors = [
      extremes.lowest,
      extremes.highest,
      bands,
      this.swings,
      this.structure,
      this.bases,
      this.orderBlocks,
      this.ranges,
      this.gaps,
      this.openingGaps,
      this.equal,
      this.clusters,
      this.patterns,
    ];
    run(track, this.detectors);
  }

  /** One more closed bar. */
  push(bar: Bar): void {
    this.track.push(bar);
    run(this.track, this.detectors, this.track.length - 1);
  }
}
