import type { Area } from "#core/areas/areas";
import { killOf, readingOf } from "#core/marks/count";
import type { CountProps } from "#core/marks/countProps";
import type { Anchor, Mark } from "#core/marks/kind";
import { PATTERNS } from "#core/waves/patterns";
import { nestedStatements } from "#core/waves/statements";
import { targetsOf } from "#core/waves/targets";
import { directionOf, inProgress, type Pivot, type Wave } from "#core/waves/wave";

/** A scenario as a live count suggests it; prices are not yet on the grid. */
export interface CountScenario {
  direction: "long" | "short";
  title: string;
  premise: string;
  order: "market" | "limit";
  entry: number;
  stop: number;
  invalidation: number;
  targets: number[];
  /** Turns price is expected to make, as shares of the way's time (0 to 1) and prices; the first is where it stands. */
  path: { at: number; price: number }[];
}

/** Beyond an area or a kill price a stop stands by this share of ATR. */
const BEYOND = 0.25;

/**
 * What a live count asks for. While a wave with the trend of the whole runs (1, 3, 5, A, C, W, Y) the scenario goes its
 * way, from the nearest area between price and the price that ends the count, at market where there is none. While one
 * against it runs (2, 4, B, X) the scenario waits for its end: a limit at the nearest target ahead (or an area there),
 * the
 * way of the whole. Wrong where the count dies; targets are the projections. `undefined` for a count that is complete,
 * that has no price that ends it on the side of the stop, or that price stands beside already.
 */
export function scenarioFromCount(
  mark: Mark<CountProps>,
  close: number,
  atr: number,
  areas: readonly Area[],
): CountScenario | undefined {
  const { wave, options } = readingOf(mark);
  const open = inProgress(wave);
  if (open === undefined || wave.pivots.length < 2) return undefined;
  const { labels, title } = PATTERNS[wave.pattern];
  const trend = directionOf(wave.pivots);
  const along = open % 2 === 0;
  const sign = trend;
  const behind = sign > 0 ? "below" : "above";
  const kill =
    nestedStatements(wave, options).find(
      ({ at, asserted, killSide, killPrice }) =>
        at.length === 0 && asserted && killSide === behind && sign * (close - killPrice) > 0,
    ) ?? (killOf(mark)?.killSide === behind ? killOf(mark) : undefined);
  if (!kill) return undefined;
  const wrong = kill.killPrice;
  // An entry beside the price that ends it would be triggered at its own stop.
  const nearest = wrong + sign * BEYOND * atr;
  const ahead = along
    ? []
    : targetsOf(wave, options)
        .map(({ price }) => price)
        .filter((price) => sign * (close - price) > 0 && sign * (price - nearest) > 0);
  const wait = ahead.sort((a, b) => sign * (b - a)).at(0);
  const place = nearestArea(areas, sign, close, nearest, wait);
  const entry = place ? (sign > 0 ? place.top : place.bottom) : (wait ?? close);
  if (sign * (entry - nearest) <= 0) return undefined;
  const far = place ? (sign > 0 ? place.bottom : place.top) - sign * BEYOND * atr : wrong - sign * BEYOND * atr;
  // Never further away than where the count itself is wrong.
  const stop = sign * (far - wrong) > 0 ? far : wrong;
  const next: Pick<Wave, "pattern" | "pivots"> = along
    ? wave
    : { pattern: wave.pattern, pivots: [...wave.pivots, { time: lastTime(wave.pivots) + 1, price: entry }] };
  const targets = [...new Set(targetsOf(next, options).map(({ price }) => price))]
    .filter((price) => sign * (price - entry) > Math.abs(entry - stop) * 0.25)
    .sort((a, b) => sign * (a - b))
    .slice(0, 2);
  if (targets.length === 0) return undefined;
  const running = labels[open];
  const goal = labels[along ? open : open + 1] ?? running;
  return {
    direction: sign > 0 ? "long" : "short",
    title: `${mark.props.role === "alternate" ? "Alternate: " : ""}${mark.props.degree} wave ${goal}`,
    premise: (
      `${mark.props.degree} ${title}: ${kill.statement}. ` +
      (`${along ? `Wave ${running} has room` : `After wave ${running} comes wave ${goal}`}. The rule that ` +
        `would end it: ${kill.killRule}.`)
    ).slice(0, 600),
    order: entry === close ? "market" : "limit",
    entry,
    stop,
    invalidation: wrong,
    targets,
    path: pathTo(
      close,
      entry,
      targets[targets.length - 1],
      PATTERNS[wave.pattern].children[along ? open : open + 1]?.some((child) => PATTERNS[child].motive) ?? true,
    ),
  };
}

/**
 * The area nearest to price that lies between it and where the count is wrong; near the awaited price where there is
 * one.
 */
function nearestArea(
  areas: readonly Area[],
  sign: number,
  close: number,
  least: number,
  wait: number | undefined,
): Area | undefined {
  const edge = (area: Area) => (sign > 0 ? area.top : area.bottom);
  const between = areas.filter((area) => sign * (close - edge(area)) > 0 && sign * (edge(area) - least) > 0);
  const from = wait ?? close;
  return between.sort((a, b) => Math.abs(edge(a) - from) - Math.abs(edge(b) - from)).at(0);
}

/** Turns of five waves (1, 0.5, 1.618, 0.38, 1 of them) or of three (1, 0.5, 1) from the entry to the last target. */
function pathTo(close: number, entry: number, target: number, motive: boolean): CountScenario["path"] {
  const lengths = motive ? [1, -0.5, 1.618, -0.618, 1] : [1, -0.5, 1];
  const whole = lengths.reduce((sum, length) => sum + length, 0);
  const first = entry === close ? [] : [{ at: 0.15, price: entry }];
  const begin = first.length > 0 ? 0.15 : 0;
  let sum = 0;
  return [
    { at: 0, price: close },
    ...first,
    ...lengths.map((length, i) => ({
      at: begin + ((1 - begin) * (i + 1)) / lengths.length,
      price: entry + ((target - entry) * (sum += length)) / whole,
    })),
  ];
}

function lastTime(pivots: readonly Pivot[]): number {
  return pivots[pivots.length - 1].time;
}

/** Anchors of a path mark: its turns on the bars to come. */
export function pathAnchors(path: CountScenario["path"], last: Anchor, future: readonly number[]): Anchor[] {
  const reach = Math.min(future.length, 60);
  return path
    .map(({ at, price }, i) =>
      i === 0 ? last : { time: future[Math.max(i - 1, Math.min(reach - 1, Math.round(at * reach) - 1))], price },
    )
    .filter(({ time }) => time !== undefined);
}
