import { QueryTypes, type Transaction } from "sequelize";
import { transact } from "../database/connection.ts";
import { Edition, EditionMarket, EditionWords } from "../database/models.ts";
import { wordsBySight } from "../record/foundWords.ts";
import { cutLeaves, leavesOf, type Leaf } from "../record/leaves.ts";
import { contentOf, type EditionContent } from "./content.ts";
import { cutsOf } from "./cuts.ts";

/** Makes an edition one that is found: by its markets, its words, and the market's time it is of. */
export async function makeFindable(
  number: number,
  content: EditionContent,
  leaves: readonly Leaf[],
  transaction: Transaction,
): Promise<void> {
  const markets = new Set(
    content.blocks.flatMap((block) =>
      block.kind === "market"
        ? [block.section.market.id]
        : block.kind === "walk"
          ? block.steps.map(({ section }) => section.market.id)
          : [],
    ),
  );
  await EditionMarket.bulkCreate(
    [...markets].map((marketId) => ({ edition: number, marketId })),
    { transaction, ignoreDuplicates: true },
  );
  await EditionWords.bulkCreate(
    [...wordsBySight(leaves)].map(([see, words]) => ({ edition: number, see, words })),
    { transaction, ignoreDuplicates: true },
  );
  await Edition.update({ marketTime: Date.parse(content.marketTime) }, { where: { number }, transaction });
}

/** The same for editions from before they were. */
export async function makeAllFindable(): Promise<void> {
  const missing = await Edition.findAll({ where: { marketTime: null }, attributes: ["number"], raw: true });
  for (const { number } of missing) {
    const { canonical } = await Edition.findByPk(number, { rejectOnEmpty: true, attributes: ["canonical"] });
    const content = contentOf(canonical);
    const leaves = leavesOf(canonical) ?? cutLeaves(content, cutsOf(content));
    await transact((transaction) => makeFindable(number, content, leaves, transaction));
  }
}

/** Longest text that is looked for. */
const LONGEST = 200;

/**
 * Numbers of editions that hold some words in what `sees` name, the best first: natural language search of MariaDB,
 * whose words have at least three letters.
 */
export async function searchEditions(text: string, isSeen: (see: string) => boolean): Promise<number[]> {
  // The server's own signs of search would be read as such, and fail where they make no sense.
  const asked = text
    .replace(/[^\p{L}\p{N}.]+|\.(?!\p{N})/gu, " ")
    .trim()
    .slice(0, LONGEST);
  if (asked === "") return [];
  const rows = await EditionWords.findAll({ attributes: ["see"], group: ["see"], raw: true });
  const sees = rows.map(({ see }) => see).filter(isSeen);
  if (sees.length === 0) return [];
  const found = await EditionWords.sequelize!.query<{ edition: number }>(
    `SELECT edition, SUM(MATCH (words) AGAINST (:asked)) AS score FROM edition_words
     WHERE see IN (:sees) AND MATCH (words) AGAINST (:asked)
     GROUP BY edition ORDER BY score DESC, edition DESC LIMIT 200`,
    { replacements: { asked, sees }, type: QueryTypes.SELECT },
  );
  return found.map(({ edition }) => edition);
}
