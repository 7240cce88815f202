import { LayoutDto } from "#contracts/layout";
import { readDto } from "#contracts/read";
import { EVERYTHING, type Shown } from "#core/marks/shown";
import { LayoutRow, Market } from "../database/models.ts";

export interface ChartLayout {
  /** Charts side by side; an empty market is whichever is open. */
  panes: { market: string; rung: string }[];
  shown: Shown;
}

export const ONE_CHART: ChartLayout = { panes: [{ market: "", rung: "P1D" }], shown: { ...EVERYTHING, dead: false } };

/** The charts an analyst left on the desk; one of them where there are none, or where they cannot be read any more. */
export async function layoutOf(accountId: string): Promise<ChartLayout> {
  const row = await LayoutRow.findByPk(accountId);
  const read = row ? readDto(LayoutDto, row.layout) : undefined;
  if (!read?.ok) return ONE_CHART;
  const { panes, shown } = plain(read.value);
  const there = new Set((await Market.findAll({ attributes: ["id"], raw: true })).map(({ id }) => id));
  const left = panes.filter(({ market }) => market === "" || there.has(market));
  return { panes: left.length > 0 ? left : ONE_CHART.panes, shown };
}

export async function saveLayout(layout: LayoutDto, accountId: string): Promise<void> {
  await LayoutRow.upsert({ accountId, layout: { ...plain(layout) } });
}

function plain({ panes, shown: { without, higher, dead } }: LayoutDto): ChartLayout {
  return { panes: panes.map(({ market, rung }) => ({ market, rung })), shown: { without: [...without], higher, dead } };
}
