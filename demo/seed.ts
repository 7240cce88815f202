import { appendBars } from "../server/bars/chunks.ts";
import { createAccount } from "../server/accounts/accounts.ts";
import { transact } from "../server/database/connection.ts";
import { ClockRow, Market } from "../server/database/models.ts";
import { makeBars } from "./market.ts";
import { sayOpinions } from "./opinions.ts";
import { MARKETS, SPAN } from "./world.ts";

/** The two who sign in to the demo; it listens on this machine only. */
export const PEOPLE = {
  analyst: { email: "analyst@meridian.example", name: "Ines Quill", password: "lantern-harbour" },
  subscriber: { email: "reader@meridian.example", name: "Tomas Brand", password: "tide-and-tin" },
} as const;

/** Fills an empty desk with the Meridian Isles; a desk that has them is left as it is. Returns whether it did. */
export async function seedWorld(): Promise<boolean> {
  if ((await Market.count()) > 0) return false;
  const worlds = MARKETS.map((market) => ({ market, bars: makeBars(market, SPAN) }));
  await transact(async (transaction) => {
    for (const { market, bars } of worlds) {
      const { id, name, kind, tick, pip, pipName, decimals, calendar } = market;
      await Market.create({ id, name, kind, tick, pip, pipName, decimals, calendar }, { transaction });
      await appendBars({ marketId: id, base: "P1D", shelf: "live" }, bars.daily, transaction);
      await appendBars({ marketId: id, base: "PT1M", shelf: "live" }, bars.minutes, transaction);
      await appendBars({ marketId: id, base: "PT1M", shelf: "tape" }, bars.tape, transaction);
    }
    await ClockRow.create({ id: 1, now: SPAN.now, speed: 0, wallTime: Date.now() }, { transaction });
  });
  const analyst = await createAccount(PEOPLE.analyst, "analyst");
  await createAccount(PEOPLE.subscriber, "subscriber");
  const [{ market, bars }] = worlds;
  await sayOpinions(market.id, bars.truth, analyst, SPAN.now);
  return true;
}
