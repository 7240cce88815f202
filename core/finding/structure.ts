import { keyOf, type Draft } from "#core/finding/draft";
import type { RungReader } from "#core/finding/reader";
import { fittedLines, type FittedLine } from "#core/structure/fittedLines";
import type { StructureEvent } from "#core/structure/structure";
import { countText } from "#core/marks/wording";

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
    freshness: 1,
    ...(event === "failedBreak" ? {} : { rate: event }),
    why: [
      `${countText(since, "bar")} ago`,
      ...(structure.trend?.way === direction ? [] : ["against the trend of now"]),
    ],
    bars: [[swing, at]],
  };
}

function lineDraft({ rung }: RungReader, { side, from, to, now, touches, opposite }: FittedLine): Draft {
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
    freshness: 1,
    why: [`${countText(to.index - from.index, "bar")} long`],
    bars: [from, to].map(({ index }) => [index, index] as const),
  };
}
