import { Market, StepRow } from "../database/models.ts";

/** The market the desk opens with: the one this analyst marked last, else the first by name. */
export async function firstMarket(accountId: string): Promise<string | undefined> {
  const step = await StepRow.findOne({
    where: { accountId },
    order: [["wallTime", "DESC"]],
    attributes: ["marketId"],
    raw: true,
  });
  if (step) return step.marketId;
  const market = await Market.findOne({ order: [["name", "ASC"]], attributes: ["id"], raw: true });
  return market?.id;
}
