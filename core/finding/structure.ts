import { keyOf, type Draft } from "#core/finding/draft";
import type { RungReader } from "#core/finding/reader";
import { fittedLines, type FittedLine } from "#core/structure/fittedLines";
import type { StructureEvent } from "#core/structure/structure";
import { between } from "#core/zones/grade";

const MOST_LINES = 2;

/** The last shift, the last break since, the last sweep, and the lines that swings respect. */
export function structureDrafts(reader: RungReader): Draft[] {
  const { structure, swings, track } = reader;
  const last = (passes: (event: StructureEvent) => boolean) => structure.events.findLast(passes);
  const shift = last(({ event }) => event === "shift");
  const broken = last(({ event, inner }) => event === "break" && !inner);
  const sweep = last(({ event }) => event === "sweep");
  const stands = (event: StructureEvent | undefined, after: number) =>
    event && event.at > after && !isTakenBack(reader, event);
  const events = [
    shift,
    stands(broken, shift?.at ?? -1) ? broken : undefined,
    stands(sweep, track.length - 20) ? sweep : undefined,
  ];
  const lines = fittedLines(track, swings.found);
  return [
    ...events.flatMap((event) => (event ? [eventDraft(reader, event)] : [])),
    ...lines.slice(0, MOST_LINES).map((line) => lineDraft(reader, line)),
  ];
}

/** Whether a later bar closed back beyond the price: for a sweep, the way it went. */
function isTakenBack(
  { track: { close, length } }: RungReader,
  { at, price, direction, event }: StructureEvent,
): boolean {
  const sign = (direction === "up") === (event !== "sweep") ? 1 : -1;
  for (let i = at + 1; i < length; i++) if (sign * (close[i] - price) < 0) return true;
  return false;
}

const NAMES = { break: "Break of structure", shift: "Shift of structure", sweep: "Sweep", failedBreak: "Failed break" };

function eventDraft(
  { track, rung, structure }: RungReader,
  { event, direction, at, price, swing, depthAtr }: StructureEvent,
): Draft {
  const since = track.length - 1 - at;
  return {
    key: keyOf(event, direction, rung, new Date(track.time[at]).toISOString()),
    step: "structure",
    kind: "structure",
    anchors: [
      { time: track.time[swing], price },
      { time: track.time[at], price },
    ],
    props: { event, direction },
    name: `${NAMES[event]} ${direction}`,
    knownAt: at,
    bottom: price,
    top: price,
    role: (direction === "up") === (event !== "sweep") ? "support" : "resistance",
    state: depthAtr === undefined ? "stands" : `${depthAtr.toFixed(2)} ATR deep`,
    parts: [
      {
        part: event === "shift" ? "turned the trend" : "went with the trend",
        share: event === "sweep" ? 0.5 : 1,
        weight: 50,
      },
      { part: "recent", share: between(since, 120, 5), weight: 30 },
      { part: "the trend it speaks of stands", share: structure.trend?.way === direction ? 1 : 0, weight: 20 },
    ],
    bars: [[swing, at]],
  };
}

function lineDraft({ track, rung }: RungReader, { side, from, to, now, touches, opposite }: FittedLine): Draft {
  const anchors = [from, to].map(({ time, price }) => ({ time, price }));
  const third = opposite ? [{ time: opposite.time, price: opposite.price }] : [];
  const way = side === "low" ? "Rising" : "Falling";
  return {
    key: keyOf("line", side, rung, new Date(from.time).toISOString(), new Date(to.time).toISOString()),
    step: "structure",
    kind: opposite ? "channel" : "trendLine",
    anchors: [...anchors, ...third],
    props: {},
    name: `${way} ${opposite ? "channel" : "trend line"}, ${touches} touches`,
    knownAt: to.knownAt,
    bottom: now,
    top: now,
    role: side === "low" ? "support" : "resistance",
    state: "alive",
    parts: [
      { part: "touches", share: between(touches, 2, 6), weight: 50 },
      { part: "length", share: between(to.index - from.index, 10, 120), weight: 25 },
      {
        part: "near price",
        share: between(Math.abs(track.close[track.length - 1] - now) / track.atr[track.length - 1], 10, 0),
        weight: 25,
      },
    ],
    bars: [from, to].map(({ index }) => [index, index] as const),
  };
}
