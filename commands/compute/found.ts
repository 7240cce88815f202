import { areasOf } from "#core/areas/areas";
import { bandsOfFindings } from "#core/areas/fromFindings";
import { findingsOf } from "#core/finding/findings";
import { mergeFindings } from "#core/finding/merge";
import { FINDING_DEFAULTS } from "#core/finding/params";
import { RungReader } from "#core/finding/reader";
import { EqualLevels } from "#core/levels/equal";
import { run, Track } from "#core/series/track";
import { StructureDetector } from "#core/structure/structure";
import { SwingDetector } from "#core/structure/swingDetector";
import { divides, nominalLength, parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { pointsOf } from "#core/zones/points";
import { RequestFault } from "./fault.ts";
import { notNegative, number, raw, whole } from "./parameters.ts";
import { timeText, type Quantity } from "./quantity.ts";
import { derive, readTimeframeField, type Input } from "./request.ts";

/** What the detectors find, asked one by one. */
export const found: readonly Quantity[] = [
  {
    name: "structure",
    says: "breaks, shifts and sweeps of structure, by closes",
    parameters: [whole("k", 3)],
    fields: ["time", "event", "direction", "price", "swingTime"],
    values({ k }, { series, timeframe, tick }) {
      const track = new Track(series, tick());
      const swings = new SwingDetector(track, { k: k as number, ties: "last" });
      const structure = new StructureDetector(track, swings, k as number);
      run(track, [swings, structure]);
      return structure.events
        .filter(({ event }) => event !== "failedBreak")
        .map(({ event, direction, at, price, swing }) => ({
          time: timeText(series.time[at], timeframe),
          event,
          direction,
          price,
          swingTime: timeText(series.time[swing], timeframe),
        }));
    },
  },
  {
    name: "zones",
    says: "supply and demand zones from bases, graded, and their lives",
    parameters: [
      notNegative("quiet", FINDING_DEFAULTS.quiet),
      whole("longest", FINDING_DEFAULTS.longest),
      number("departure", FINDING_DEFAULTS.departure),
      whole("within", FINDING_DEFAULTS.within),
    ],
    fields: ["time", "kind", "side", "bottom", "top", "grade", "state", "touches", "deepest", "knownAt", "events"],
    values(params, input) {
      const { series, timeframe } = input;
      const reader = readerOf(input, params);
      const text = (i: number) => timeText(series.time[i], timeframe);
      const departed = reader.bases.found.map((zone) => {
        const { kind, side, bottom, top, knownAt, to, life } = zone;
        const { status, touches, deepest } = life.state;
        const events = life.events.map(({ event, time, touches: count, deepest: share }) => ({
          time: timeText(time, timeframe),
          event,
          touches: count,
          deepest: share,
        }));
        return {
          time: text(to + 1),
          kind,
          side,
          bottom,
          top,
          grade: pointsOf(reader, zone),
          state: status,
          touches,
          deepest,
          knownAt: text(knownAt),
          events,
        };
      });
      const pending = reader.bases.pending().map(({ side, bottom, top, knownAt }) => ({
        side,
        bottom,
        top,
        state: "pending",
        touches: 0,
        deepest: 0,
        knownAt: text(knownAt),
        events: [],
      }));
      return [...departed, ...pending];
    },
  },
  {
    name: "equalLevels",
    says: "two or more swing highs or lows at one price, and whether they were run",
    parameters: [notNegative("tolerance", FINDING_DEFAULTS.equal), whole("k", 3)],
    fields: ["times", "price", "side", "state"],
    values({ tolerance, k }, { series, timeframe, tick }) {
      const track = new Track(series, tick());
      const swings = new SwingDetector(track, { k: k as number, ties: "none" });
      const equal = new EqualLevels(track, swings, tolerance as number);
      run(track, [swings, equal]);
      return equal.found.map(({ swings: own, price, side, state }) => ({
        times: own.map(({ time }) => timeText(time, timeframe)),
        price,
        side,
        state,
      }));
    },
  },
  {
    name: "areas",
    says: "price bands where findings of several timeframes meet, weighted by independent reasons",
    parameters: [raw("timeframes", "list of ISO 8601 durations", null)],
    fields: ["bottom", "top", "weight", "reasons"],
    values({ timeframes }, input) {
      if (timeframes !== null && (!Array.isArray(timeframes) || timeframes.length < 1 || timeframes.length > 20))
        throw new RequestFault(`"timeframes" must be a list of ISO 8601 durations.`);
      const asked =
        timeframes === null
          ? usualRungs(input.timeframe)
          : timeframes.map((one, i) => readTimeframeField(one, `timeframes[${i}]`));
      const readers = asked.map((timeframe) =>
        readerOf({ ...input, series: derive(input.series, input.timeframe, timeframe, input.calendar), timeframe }, {}),
      );
      const facts = mergeFindings(
        readers.map(findingsOf),
        input.tick(),
        input.series.close[input.series.length - 1] ?? 0,
      );
      const atrs = new Map(
        readers.map(({ rung, track }) => [rung, track.length > 0 ? track.atr[track.length - 1] : input.tick()]),
      );
      return areasOf(bandsOfFindings(facts, (rung) => atrs.get(rung) ?? input.tick())).map(
        ({ bottom, top, weight, reasons }) => ({ bottom, top, weight, reasons }),
      );
    },
  },
];

/** The timeframes of an area where none is named: the bars' own, and the next two of the usual ones they make. */
function usualRungs(base: Timeframe): Timeframe[] {
  const longer = ["PT15M", "PT1H", "PT4H", "P1D", "P1W", "P1M", "P3M", "P1Y"]
    .flatMap((text) => parseTimeframe(text) ?? [])
    .filter((rung) => nominalLength(rung) > nominalLength(base) && divides(base, rung));
  return [base, ...longer.slice(0, 2)];
}

function readerOf({ series, timeframe, calendar, tick }: Input, params: object): RungReader {
  return new RungReader(series, timeframe, calendar, tick(), { ...FINDING_DEFAULTS, ...params });
}
