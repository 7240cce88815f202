import { Market } from "../database/models.ts";

/** The market the desk opens with: the first by name. */
export async function firstMarket(): Promise<string | undefined> {
  const market = await Market.findOne({ order: [["name", "ASC"]], attributes: ["id"], raw: true });
  return market?.id;
}
