import { Op, type InferAttributes, type Transaction } from "sequelize";
import { ToldBarsRow, ToldPageRow } from "../../database/models.ts";
import { appendToRecord } from "../append.ts";
import { sha256 } from "../../canonical.ts";
import { GENESIS } from "../entry.ts";
import { sealedPage, type ToldFacts, type ToldPage } from "./page.ts";
import { digestOfRows, packRows, unpackRows, type ToldRow } from "./rows.ts";
import { keepTail } from "./tails.ts";

/** A page that grows is full at this many bars, so that one more rewrites little. */
export const FULL_PAGE = 512;
/** Bars of before are cut where their times say so, not where they begin: the same bars make the same pages again. */
const WARM_PAGE = 8_192;
const CUT = 2_048;

const isCut = ({ bar }: ToldRow) => Math.imul(bar.time / 60_000, 2_654_435_761) % CUT === 0;

export function pageOf({ marketId: market, previousSha256: previous, ...row }: InferAttributes<ToldPageRow>): ToldPage {
  const { number, generation, warm, facts, bars, through, bytes, sha256: sha, keyId, signature } = row;
  return {
    ...{ market, number, generation, warm: Boolean(warm), facts: facts as ToldFacts | null, bars, through, bytes },
    ...{ previous, sha256: sha, keyId, signature },
  };
}

/** Pages of a market from a number on, in order; the mapper reads JSON, so not as raw rows. */
export async function readPages(market: string, from = 1, transaction?: Transaction): Promise<ToldPage[]> {
  const where = { marketId: market, number: { [Op.gte]: from } };
  const rows = await ToldPageRow.findAll({
    where,
    order: [["number", "ASC"]],
    ...(transaction ? { transaction } : {}),
  });
  return rows.map((row) => pageOf(row.get({ plain: true })));
}

/** The last page of a market. */
export async function lastPage(market: string, transaction?: Transaction): Promise<ToldPage | undefined> {
  const number = await ToldPageRow.max<number | null, ToldPageRow>("number", {
    where: { marketId: market },
    ...(transaction ? { transaction } : {}),
  });
  return number === null ? undefined : (await readPages(market, number, transaction)).at(-1);
}

/** The bars of a page. Throws a `RangeError` where they are gone or are not those that were sealed. */
export async function readRows(page: ToldPage, transaction?: Transaction): Promise<ToldRow[]> {
  const found = await ToldBarsRow.findByPk(page.bytes, { raw: true, ...(transaction ? { transaction } : {}) });
  return rowsIn(page, found?.bytes);
}

export function rowsIn(page: ToldPage, bytes: Uint8Array | undefined): ToldRow[] {
  const name = `The bars of page ${page.number} of what calls on ${page.market} were told`;
  if (!bytes) throw new RangeError(`${name} are gone.`);
  if (digestOfRows(bytes) !== page.bytes) throw new RangeError(`${name} are not those that were sealed.`);
  const rows = unpackRows(bytes);
  if (rows.length !== page.bars) throw new RangeError(`${name} are not those that were sealed.`);
  return rows;
}

/** Bars cut into pages of a generation's beginning; of no bars one empty page. */
function* warmPages(rows: Iterable<ToldRow>): Generator<ToldRow[]> {
  let page: ToldRow[] = [];
  let isFirst = true;
  for (const row of rows) {
    page.push(row);
    if (page.length < WARM_PAGE && !isCut(row)) continue;
    yield page;
    [page, isFirst] = [[], false];
  }
  if (isFirst || page.length > 0) yield page;
}

/** A page with its bars. */
export interface FullPage {
  page: ToldPage;
  rows: readonly ToldRow[];
}

/**
 * Begins a generation: pages with the bars of before, sealed, the last of them entered in the record. They come one by
 * one, for a market of a million minutes has many.
 */
export async function* beginGeneration(
  market: string,
  before: Pick<ToldPage, "number" | "sha256" | "generation"> | undefined,
  { facts, rows, through }: { facts: ToldFacts; rows: Iterable<ToldRow>; through: number | null },
  transaction: Transaction,
): AsyncGenerator<FullPage> {
  const generation = (before?.generation ?? 0) + 1;
  let last: Pick<ToldPage, "number" | "sha256"> = before ?? { number: 0, sha256: GENESIS };
  let isFirst = true;
  for (const own of warmPages(rows)) {
    const packed = packRows(own);
    const page = sealedPage({
      ...{ market, number: last.number + 1, generation, warm: true, facts: isFirst ? facts : null, bars: own.length },
      ...{ through, bytes: digestOfRows(packed), previous: last.sha256 },
    });
    await storePage(page, packed, transaction);
    [last, isFirst] = [page, false];
    yield { page, rows: own };
  }
  const { number, sha256: sha } = last;
  await enterPage({ market, number, sha256: sha }, transaction);
}

/** What the pages of a market reach to is kept outside the database once they stand. */
export function keepReach({ market, number, bars }: ToldPage, transaction: Transaction): void {
  transaction.afterCommit(() => keepTail({ market, number, bars }));
}

/** Adds bars that were told: to the last page while it is not full, and to new ones. Full pages are entered. */
export async function appendRows(
  tail: FullPage,
  rows: readonly ToldRow[],
  through: number | null,
  transaction: Transaction,
): Promise<FullPage[]> {
  const written: FullPage[] = [];
  const { market, generation } = tail.page;
  let last = tail;
  for (let from = 0; from < rows.length;) {
    const grows = !last.page.warm && last.page.bars < FULL_PAGE;
    const before = grows ? last.rows : [];
    const part = rows.slice(from, from + FULL_PAGE - before.length);
    from += part.length;
    const own = [...before, ...part];
    const packed = packRows(own);
    const page = sealedPage({
      ...{ market, generation, warm: false, facts: null, bars: own.length },
      number: grows ? last.page.number : last.page.number + 1,
      previous: grows ? last.page.previous : last.page.sha256,
      // Where a page ends is known of the last of them; what lies within follows from its bars.
      through: from >= rows.length ? through : lastOwn(own, last.page.through),
      bytes: digestOfRows(packed),
    });
    await storePage(page, packed, transaction, grows ? last.page.bytes : undefined);
    if (own.length >= FULL_PAGE) await enterPage(page, transaction);
    last = { page, rows: own };
    written.push(last);
  }
  keepReach(last.page, transaction);
  return written;
}

function lastOwn(rows: readonly ToldRow[], before: number | null): number | null {
  return rows.findLast(({ who }) => who === 0)?.bar.to ?? before;
}

async function storePage(page: ToldPage, packed: Buffer, transaction: Transaction, replaced?: string): Promise<void> {
  const { market: marketId, previous: previousSha256, ...row } = page;
  await ToldBarsRow.bulkCreate([{ sha256: page.bytes, bytes: packed }], { transaction, ignoreDuplicates: true });
  await ToldPageRow.upsert({ marketId, previousSha256, ...row }, { transaction });
  // What a page held before it grew is kept where another page has the very same.
  if (replaced === undefined || replaced === page.bytes) return;
  if ((await ToldPageRow.count({ where: { bytes: replaced }, transaction })) === 0)
    await ToldBarsRow.destroy({ where: { sha256: replaced }, transaction });
}

/** Enters a page that does not grow any more in the record, so that its chain leads through it. */
async function enterPage(
  { market, number, sha256: sha }: Pick<ToldPage, "market" | "number" | "sha256">,
  transaction: Transaction,
): Promise<void> {
  const scenarioId = sha256(market).slice(0, 36);
  const content = { market, number, sha256: sha };
  await appendToRecord(
    [{ kind: "bars", edition: 0, scenarioId, sequence: number, createdAt: Date.now(), content, see: "desk" }],
    transaction,
  );
}
