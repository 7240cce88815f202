import { sightOf } from "../accounts/plans.ts";
import type { Person } from "../accounts/sessions.ts";
import { findMarket } from "../bars/markets.ts";
import { Failure, notFound } from "../failure.ts";
import { marketsSeen } from "../readers/marketSaid.ts";
import { alertsOf, setAlert, type AlertLine } from "./alerts.ts";

/** Prices a reader waits for at a time. */
const MOST = 50;

/**
 * A reader is told, once, when price reaches a price of their own on a market that outlooks they may open speak of.
 * `text` is the price as it was typed.
 */
export async function waitForPrice(person: Person, marketId: string, text: string): Promise<void> {
  const market = await findMarket(marketId);
  if (!(await marketsSeen(await sightOf(person))).some(({ id }) => id === market.id)) throw notFound("market");
  const price = /^-?\d{1,12}([.,]\d{1,10})?$/.test(text.trim()) ? Number(text.trim().replace(",", ".")) : NaN;
  if (Number.isNaN(price))
    throw new Failure("price", "This is no price.", {
      status: 400,
      kept: "Nothing was set.",
      remedy: "Write it in figures, as 454.70.",
    });
  if ((await pricesWaitedFor(person.id)).length >= MOST)
    throw new Failure("many", `You wait for ${MOST} prices already.`, { remedy: "Take one of them back first." });
  const at = { bottom: price, top: price, name: "your price", leave: 0 };
  await setAlert(market.id, { terms: { on: "reach", at, again: false, note: "" } }, person.id);
}

/** Prices somebody still waits for, of all markets or of one. */
export async function pricesWaitedFor(accountId: string, marketId?: string): Promise<AlertLine[]> {
  const all = await alertsOf(accountId);
  return all.filter(({ active, market }) => active && (marketId === undefined || market === marketId));
}
