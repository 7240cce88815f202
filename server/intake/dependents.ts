import { countText } from "#core/marks/wording";
import { transact } from "../database/connection.ts";
import { BarImport, WatcherRow } from "../database/models.ts";
import { marksOf } from "../desk/marks.ts";
import { notFound } from "../failure.ts";
import { findMarket, withDependents } from "../bars/markets.ts";

/** What rests on the bars of an import and would rest on others, or on none, were it taken back; in sentences. */
export async function dependentsOf(importId: string): Promise<string[]> {
  const found = await BarImport.findByPk(importId);
  if (!found) throw notFound("import");
  const market = await findMarket(found.marketId);
  const [from, to] = [found.firstTime ?? Infinity, found.lastTime ?? -Infinity];
  const marks = (await marksOf(market.id)).filter(({ anchors }) =>
    anchors.some(({ time }) => time >= from && time <= to),
  );
  const calls = await WatcherRow.findAll({
    where: { marketId: market.id, kind: "scenario" },
    attributes: ["since", "through"],
  });
  const followed = calls.filter(({ since, through }) => since <= to && (through ?? Infinity) >= from);
  const [, ...derived] = await transact((transaction) => withDependents([market], transaction));
  return [
    ...(marks.length > 0 ? [`${countText(marks.length, "mark stands", "marks stand")} on its bars.`] : []),
    ...(followed.length > 0
      ? [
          `${countText(followed.length, "published call was", "published calls were")} followed on them: ` +
            `their outcomes stand and get a note.`,
        ]
      : []),
    ...(derived.length > 0 ? [`Made of this market: ${derived.map(({ name }) => name).join(", ")}.`] : []),
  ];
}
