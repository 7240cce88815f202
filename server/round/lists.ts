import { randomUUID } from "node:crypto";
import type { SaveListDto } from "#contracts/round";
import { listMarkets } from "../bars/markets.ts";
import { isDuplicate } from "../database/connection.ts";
import { MarketList, type Market } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

export interface ListName {
  /** Empty for the list of all that are not rarely looked at. */
  id: string;
  name: string;
  rare: boolean;
}

/** The order in which the list of all is walked. */
const KINDS = ["currency", "commodity", "index", "share"];
const placeOf = ({ kind }: Market) => (KINDS.indexOf(kind) + KINDS.length + 1) % (KINDS.length + 1);

const ALL: ListName = { id: "", name: "All markets", rare: false };

/**
 * A list with its markets in the order they are walked, and the names of all lists. A list that is gone is the list of
 * all.
 */
export async function listOf(
  accountId: string,
  id: string,
): Promise<{ list: ListName; lists: ListName[]; markets: Market[] }> {
  const [rows, markets] = await Promise.all([
    MarketList.findAll({
      where: { accountId },
      order: [
        ["rare", "ASC"],
        ["name", "ASC"],
      ],
    }),
    listMarkets(),
  ]);
  const nameOf = (row: MarketList): ListName => ({ id: row.id, name: row.name, rare: row.rare });
  const lists = [ALL, ...rows.map(nameOf)];
  const row = rows.find((one) => one.id === id);
  if (row) {
    const known = new Map(markets.map((market) => [market.id, market]));
    return { list: nameOf(row), lists, markets: row.markets.flatMap((one) => known.get(one) ?? []) };
  }
  const rare = new Set(rows.filter((one) => one.rare).flatMap((one) => one.markets));
  return {
    list: ALL,
    lists,
    markets: markets.filter((market) => !rare.has(market.id)).sort((a, b) => placeOf(a) - placeOf(b)),
  };
}

export interface OwnList extends ListName {
  markets: string[];
}

/** The lists an account has made. */
export async function listsOf(accountId: string): Promise<OwnList[]> {
  const rows = await MarketList.findAll({
    where: { accountId },
    order: [
      ["rare", "ASC"],
      ["name", "ASC"],
    ],
  });
  return rows.map(({ id, name, markets, rare }) => ({ id, name, markets, rare }));
}

/** Saves a list, a new one when it has no id. */
export async function saveList({ id, name, markets, rare }: SaveListDto, accountId: string): Promise<string> {
  const known = new Set((await listMarkets()).map((market) => market.id));
  const content = { name: name.trim(), markets: [...new Set(markets)].filter((one) => known.has(one)), rare };
  if (content.markets.length === 0)
    throw new Failure("empty", "A list has at least one market.", {
      kept: "Nothing was changed.",
      fields: { markets: "Choose at least one." },
    });
  try {
    if (!id) return (await MarketList.create({ id: randomUUID(), accountId, ...content })).id;
    const row = await MarketList.findOne({ where: { id, accountId } });
    if (!row) throw notFound("list");
    await row.update(content);
    return id;
  } catch (error) {
    if (!isDuplicate(error)) throw error;
    throw new Failure("taken", "There is already a list of this name.", {
      kept: "Nothing was changed.",
      fields: { name: "This name is taken." },
    });
  }
}

export async function removeList(id: string, accountId: string): Promise<void> {
  if ((await MarketList.destroy({ where: { id, accountId } })) === 0) throw notFound("list");
}
