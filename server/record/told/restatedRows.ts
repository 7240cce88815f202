import { isDeepStrictEqual } from "node:util";
import type { ClosedBar } from "#core/observe/closedBar";
import { formatTimeframe } from "#core/time/timeframe";
import type { Fault } from "../verify.ts";
import type { ToldFacts, ToldPage } from "./page.ts";
import type { ToldRow } from "./rows.ts";
import type { ToldSource } from "./verifyCalls.ts";

/** Stretches of time (ms UTC), each from its opening to its end. */
export type Spans = readonly { from: number; to: number }[];

type Bars = AsyncIterable<ClosedBar> | Iterable<ClosedBar>;

/** Pages of one generation. */
export function generationsOf(pages: readonly ToldPage[]): ToldPage[][] {
  const out: ToldPage[][] = [];
  for (const page of pages) {
    if (page.facts) out.push([]);
    out.at(-1)?.push(page);
  }
  return out;
}

export async function* ownBars(
  pages: readonly ToldPage[],
  rowsOf: (page: ToldPage) => Promise<readonly ToldRow[]>,
): AsyncGenerator<ClosedBar> {
  for (const page of pages) for (const { who, bar } of await rowsOf(page)) if (who === 0) yield bar;
}

const isSame = (a: ClosedBar, b: ClosedBar) =>
  formatTimeframe(a.base) === formatTimeframe(b.base) &&
  (["time", "from", "to", "open", "high", "low", "close", "volume"] as const).every((field) => a[field] === b[field]);

/** Bars that one list has and the other has not, from where both have begun to where the first one ends. */
export async function* differing(first: Bars, second: Bars): AsyncGenerator<ClosedBar> {
  const [a, b] = [iterate(first), iterate(second)];
  let [left, right] = [await take(a), await take(b)];
  const begins = Math.max(left?.from ?? Infinity, right?.from ?? -Infinity);
  while (left && left.from < begins) left = await take(a);
  while (right && right.from < begins) right = await take(b);
  while (left) {
    if (right && isSame(left, right)) [left, right] = [await take(a), await take(b)];
    else if (right && right.from < left.from) {
      yield right;
      right = await take(b);
    } else {
      yield left;
      left = await take(a);
    }
  }
}

const iterate = (bars: Bars): AsyncIterator<ClosedBar> | Iterator<ClosedBar> =>
  Symbol.asyncIterator in bars ? bars[Symbol.asyncIterator]() : bars[Symbol.iterator]();

async function take(bars: AsyncIterator<ClosedBar> | Iterator<ClosedBar>): Promise<ClosedBar | undefined> {
  const { value, done } = await bars.next();
  return done ? undefined : (value as ClosedBar);
}

/** Whether a bar lies in one of some stretches. */
export const lies = (spans: Spans, { from, to }: { from: number; to: number }) =>
  spans.some((span) => from < span.to && to > span.from);

/** What two generations read alike: where settings of the market differ, so may its bars. */
export const readsAlike = (a: ToldFacts | null, b: ToldFacts | null) =>
  a?.tick === b?.tick && isDeepStrictEqual(a?.calendar, b?.calendar);

/**
 * Bars of a market that changed from one generation to the next, or that are stored otherwise than they were told,
 * without a change of bars that was entered in the record. `settled` remembers generations that were compared.
 */
export async function changedRows(
  market: string,
  pages: readonly ToldPage[],
  source: ToldSource,
  settled: Map<string, readonly Fault[]>,
): Promise<Fault[]> {
  const generations = generationsOf(pages);
  const spans = await source.restated(market);
  const faults: Fault[] = [];
  const day = (bar: ClosedBar) => new Date(bar.from).toISOString().slice(0, 16).replace("T", " ");
  const compare = async (first: Bars, second: Bars, says: (bar: ClosedBar) => Fault): Promise<readonly Fault[]> => {
    for await (const bar of differing(first, second)) if (!lies(spans, bar)) return [says(bar)];
    return [];
  };
  for (const [i, own] of generations.entries()) {
    const before = generations[i - 1];
    if (!before || !readsAlike(before[0].facts, own[0].facts)) continue;
    const known = settled.get(own[0].sha256);
    const found =
      known ??
      (await compare(
        ownBars(before, source.rows),
        ownBars(own, source.rows),
        (bar) => `Bars of ${market} from ${day(bar)} were changed between calls, and no change was entered.`,
      ));
    settled.set(own[0].sha256, found);
    faults.push(...found);
  }
  const last = generations.at(-1);
  const stored = last?.[0].facts && (await source.stored?.(market, last[0].facts));
  if (last && stored)
    faults.push(
      ...(await compare(
        ownBars(last, source.rows),
        stored,
        (bar) =>
          `Bars of ${market} from ${day(bar)} are stored otherwise than calls were told, and no change was entered.`,
      )),
    );
  return faults;
}
