import { marketsIn } from "#core/edition/blocks";
import { audit } from "../audit/audit.ts";
import { transact } from "../database/connection.ts";
import { Draft, MarkRow, ScenarioRow, WatcherRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { lockMarket, withDependents } from "./markets.ts";

/**
 * Removes a market that nobody has said anything about, with its bars and imports; otherwise says what stands in the
 * way.
 */
export function removeMarket(id: string): Promise<void> {
  return transact(async (transaction) => {
    const market = await lockMarket(id, transaction);
    const [, ...derived] = await withDependents([market], transaction);
    const where = { marketId: id };
    const drafts = (await Draft.findAll({ where: { published: null }, transaction })).filter(({ blocks }) =>
      marketsIn(blocks).includes(id),
    );
    const ways: [string, number][] = [
      [`${derived.map(({ name }) => name).join(", ")} is made of it`, derived.length],
      [
        "an edition has published a scenario on it",
        await WatcherRow.count({ where: { ...where, kind: "scenario" }, transaction }),
      ],
      ["a draft speaks of it", drafts.length],
      ["scenarios are written on it", await ScenarioRow.count({ where: { ...where, removed: false }, transaction })],
      ["marks stand on it", await MarkRow.count({ where: { ...where, removed: false }, transaction })],
    ];
    const inTheWay = ways.filter(([, count]) => count > 0).map(([what]) => what);
    if (inTheWay.length > 0)
      throw new Failure("needed", `${market.name} cannot be removed: ${inTheWay.join("; ")}.`, {
        kept: "Nothing was removed.",
        remedy: "Remove those first, or keep it.",
      });
    const { name, kind, tick, pip, pipName, decimals, formula } = market;
    await market.destroy({ transaction });
    await audit({
      what: "market removed",
      subject: name,
      detail: { before: { kind, tick, pip, pipName, decimals, formula } },
    });
  });
}
