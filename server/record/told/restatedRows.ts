import { isDeepStrictEqual } from "node:util";
import { setImmediate as nextTurn } from "node:timers/promises";
import type { ClosedBar } from "#core/observe/closedBar";
import type { Fault } from "../verify.ts";
import type { ToldFacts, ToldPage } from "./page.ts";
import type { ToldRow } from "./rows.ts";
import type { ToldSource } from "./verifyCalls.ts";

/** Stretches of time (ms UTC), each from its opening to its end. */
export type Spans = readonly { from: number; to: number }[];

/** Bars in their order, some at a time: between two blocks others may do something. */
type Blocks = AsyncIterable<readonly ClosedBar[]>;

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
): AsyncGenerator<ClosedBar[]> {
  for (const page of pages) yield (await rowsOf(page)).flatMap(({ who, bar }) => (who === 0 ? [bar] : []));
}

const BLOCK = 4_096;

/** Bars that come one by one, in blocks. */
export async function* inBlocks(bars: Iterable<ClosedBar>): AsyncGenerator<ClosedBar[]> {
  let block: ClosedBar[] = [];
  for (const bar of bars) {
    block.push(bar);
    if (block.length < BLOCK) continue;
    yield block;
    block = [];
    await nextTurn();
  }
  yield block;
}

const isSame = (a: ClosedBar, b: ClosedBar) =>
  a.time === b.time &&
  a.from === b.from &&
  a.to === b.to &&
  a.open === b.open &&
  a.high === b.high &&
  a.low === b.low &&
  a.close === b.close &&
  a.volume === b.volume &&
  a.base.count === b.base.count &&
  a.base.unit === b.base.unit;

/** One list of blocks, read bar by bar. */
class Cursor {
  bar: ClosedBar | undefined;
  private block: readonly ClosedBar[] = [];
  private i = 0;
  private readonly blocks: AsyncIterator<readonly ClosedBar[]>;

  constructor(blocks: Blocks) {
    this.blocks = blocks[Symbol.asyncIterator]();
  }

  /** Steps on within the block; false where another block must be read. */
  step(): boolean {
    this.bar = this.block[this.i++];
    return this.bar !== undefined;
  }

  async next(): Promise<void> {
    while (!this.step()) {
      const { value, done } = await this.blocks.next();
      if (done) return void (this.bar = undefined);
      [this.block, this.i] = [value as readonly ClosedBar[], 0];
    }
  }
}

/** Bars that one list has and the other has not, from where both have begun to where the first one ends. */
export async function* differing(first: Blocks, second: Blocks): AsyncGenerator<ClosedBar> {
  const [a, b] = [new Cursor(first), new Cursor(second)];
  await a.next();
  await b.next();
  const begins = Math.max(a.bar?.from ?? Infinity, b.bar?.from ?? -Infinity);
  while (a.bar && a.bar.from < begins) if (!a.step()) await a.next();
  while (b.bar && b.bar.from < begins) if (!b.step()) await b.next();
  while (a.bar) {
    if (b.bar && isSame(a.bar, b.bar)) {
      if (!a.step()) await a.next();
      if (!b.step()) await b.next();
    } else if (b.bar && b.bar.from < a.bar.from) {
      yield b.bar;
      await b.next();
    } else {
      yield a.bar;
      await a.next();
    }
  }
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
  const compare = async (first: Blocks, second: Blocks, says: (bar: ClosedBar) => Fault): Promise<readonly Fault[]> => {
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
  const facts = last?.[0].facts;
  const key = last && facts && `stored ${last.at(-1)?.sha256} ${await source.storedKey?.(market)}`;
  if (!last || !facts || !key || !source.stored) return faults;
  const stored = settled.get(key) ?? (await compareStored(last, facts, source.stored));
  for (const old of settled.keys()) if (old.startsWith("stored ")) settled.delete(old);
  settled.set(key, stored);
  return [...faults, ...stored];

  async function compareStored(
    own: readonly ToldPage[],
    of: ToldFacts,
    read: NonNullable<ToldSource["stored"]>,
  ): Promise<readonly Fault[]> {
    const bars = await read(market, of);
    if (!bars) return [];
    const says = "are stored otherwise than calls were told, and no change was entered.";
    return compare(ownBars(own, source.rows), inBlocks(bars), (bar) => `Bars of ${market} from ${day(bar)} ${says}`);
  }
}
