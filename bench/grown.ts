import { followOn, type Followed } from "#core/marks/follow";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { readMark } from "#core/marks/registry";
import { closedBars } from "#core/observe/closedBars";
import { asInstant } from "#core/observe/instant";
import { Tape } from "#core/observe/tape";
import { scenarioWatcher } from "#core/scenarios/run";
import type { ScenarioTerms } from "#core/scenarios/terms";
import { grown } from "#core/series/grown";
import { deriveFromLayers, growFromLayers, type Layer } from "#core/series/layers";
import { slice, type Series } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { buildPyramid, growPyramid } from "../chart/pyramid.ts";
import { millionBars } from "./core.ts";
import { compare, ratioLine, type Side } from "./side.ts";
import { sized } from "./size.ts";

const RUNGS = ["PT1M", "PT3M", "PT5M", "PT15M", "PT45M", "PT1H", "PT4H", "PT8H", "P1D", "P1W"];
const tf = (text: string) => parseTimeframe(text) as Timeframe;
const calendar = new Calendar(ALL_HOURS);
const market: MarketFacts = { id: "m", name: "M", tick: 1, pip: 1, pipName: "pt", decimals: 0 };

/** 200 levels on all rungs but the longest, from the last tenth of the bars. */
function levels(series: ReadonlyMap<string, Series>): Mark[] {
  return Array.from({ length: 200 }, (_, n) => {
    const rung = RUNGS[n % 9];
    const own = series.get(rung) as Series;
    const at = Math.floor(own.length * (0.9 + (0.09 * n) / 200));
    const anchors = [{ time: own.time[at], price: own.close[at] + (n % 7) * 20 }];
    const said = { id: String(n), kind: "level", market: "m", rung, anchors, props: {}, note: "", author: "a" };
    return readMark({ ...said, version: 1 }) as Mark;
  });
}

/** A scenario that waits for a close or a shift of structure, on one of five rungs. */
function termsOf(n: number, price: number): ScenarioTerms {
  const rung = ["PT1M", "PT15M", "PT1H", "PT4H", "P1D"][n % 5];
  const close = { on: "close" as const, side: "above" as const, price: price + 1000 + n, rung };
  const shift = { on: "shift" as const, direction: "up" as const, rung, inside: [0, 1] as const };
  return {
    direction: "long",
    while: [],
    if: [{ when: n % 2 === 0 ? close : shift }],
    unless: [],
    entry: { order: "market" },
    stop: price - 500,
    targets: [{ price: price + 2000, share: 1 }],
    breakEven: null,
    trail: null,
    wrong: price - 5000,
    expires: asInstant(8e15),
    cost: 0,
    through: 0,
  };
}

/** What a new minute costs, grown from what is there against made anew. */
export async function* grownLines(): AsyncGenerator<string> {
  const minutes = millionBars();
  const known = minutes.length - sized(400, 20);
  let at = known;
  let layer: Layer = { base: tf("PT1M"), series: slice(minutes, 0, known) };
  // Room behind it, as a running server has it.
  layer = { ...layer, series: grown(layer.series, slice(minutes, at, ++at)) };
  const derived = new Map(RUNGS.map((rung) => [rung, deriveFromLayers([layer], tf(rung), calendar)]));
  const marks = levels(derived);
  const followed = new Map<string, Followed>();
  const follow = (mark: Mark, before?: Followed) => {
    const context = { series: derived.get(mark.rung) as Series, market, calendar };
    return followOn(mark, context, before).followed;
  };
  const keep = (mark: Mark, now: Followed | undefined) => now && followed.set(mark.id, now);
  for (const mark of marks) keep(mark, follow(mark));
  let pyramid = buildPyramid(derived.get("PT1M") as Series);
  const price = layer.series.close[at - 1];
  const facts = { since: asInstant(layer.series.time[at - 1]), tick: 1, zone: "UTC" };
  const watchers = Array.from({ length: 50 }, (_, n) => scenarioWatcher(termsOf(n, price), facts));
  const states = watchers.map(({ start }) => start);
  const tape = new Tape(
    { calendar, tick: 1, k: 3 },
    watchers.flatMap(({ needs }) => needs),
  );
  let through = asInstant(layer.series.time[at - 2000] ?? layer.series.time[0]);
  const tell = () => {
    for (const told of closedBars([layer], calendar, through)) {
      through = told.to;
      const moment = tape.next(told);
      watchers.forEach((watcher, n) => (states[n] = watcher.next(states[n], moment).state));
    }
  };
  tell();
  const arrive = () => (layer = { ...layer, series: grown(layer.series, slice(minutes, at, ++at)) });
  const server = () => {
    arrive();
    for (const rung of RUNGS)
      derived.set(rung, growFromLayers(derived.get(rung) as Series, [layer], tf(rung), calendar));
    tell();
  };
  const page = () => {
    for (const mark of marks) keep(mark, follow(mark, followed.get(mark.id)));
    pyramid = growPyramid(pyramid, derived.get("PT1M") as Series);
  };
  const sides: Side[] = [
    {
      name: "server: 10 rungs and 50 watchers",
      ours: server,
      other: () => RUNGS.map((rung) => deriveFromLayers([layer], tf(rung), calendar)),
      otherName: "the rungs alone derived anew",
    },
    {
      name: "page: lives of 200 marks and a pyramid",
      ours: () => {
        server();
        page();
      },
      other: () => [marks.map((mark) => follow(mark)), buildPyramid(derived.get("PT1M") as Series)],
      otherName: "followed from birth and built anew (ours: with the server's part)",
    },
  ];
  for (const side of sides) yield ratioLine(await compare(side));
}
