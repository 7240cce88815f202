import { keyOf, type Draft } from "#core/finding/draft";
import type { RungReader } from "#core/finding/reader";
import { countText, percentText } from "#core/marks/wording";
import type { PatternFound } from "#core/patterns/detector";
import { patternTitle } from "#core/patterns/registry";
import { priceOn } from "#core/patterns/shape";

/** Patterns of a rung that are offered: the newest that still stand. */
const MOST = 4;
/** One that was confirmed longer ago than this has had its time. */
const RECENT = 60;
const stamp = (time: number) => new Date(time).toISOString();

/** Patterns that wait for their break, or are on their way from it. */
export function patternDrafts(reader: RungReader): Draft[] {
  const { track, patterns } = reader;
  const last = track.length - 1;
  return patterns.live
    .filter(({ life }) => life.confirmedAt === undefined || last - life.confirmedAt <= RECENT)
    .sort((a, b) => b.knownAt - a.knownAt || a.name.localeCompare(b.name))
    .slice(0, MOST)
    .map((one) => draftOf(reader, one));
}

function draftOf({ track, rung }: RungReader, { name, sign, turns, form, knownAt, life, uneven }: PatternFound): Draft {
  const last = track.length - 1;
  const [from, to] = [turns[0].index, turns[turns.length - 1].index];
  const way = life.way ?? (form.isEither ? undefined : sign);
  const price = life.target ?? sign * priceOn(form.confirm, last);
  const title = patternTitle(name, sign);
  return {
    key: keyOf("pattern", rung, name, sign, ...turns.map(({ time }) => stamp(time))),
    ...{ step: "patterns", kind: "pattern", anchors: turns.map(({ time, price: at }) => ({ time, price: at })) },
    props: { pattern: name, way: sign > 0 ? "up" : "down" },
    name: life.way === undefined ? `${title}, forming` : `${title}, confirmed ${life.way > 0 ? "up" : "down"}`,
    ...{ knownAt, bottom: price, top: price },
    role: way === undefined ? "level" : way > 0 ? "resistance" : "support",
    state: life.retestedAt === undefined ? life.state : "retested",
    freshness: 1,
    why: [
      `${countText(to - from, "bar")} from first to last turn`,
      ...(uneven === undefined ? [] : [`uneven to ${percentText(uneven, 0)} of what is allowed`]),
    ],
    bars: [[from, to]],
  };
}
