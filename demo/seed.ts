import type { Model, ModelStatic } from "sequelize";
import { appendBars } from "../server/bars/chunks.ts";
import { createAccount } from "../server/accounts/accounts.ts";
import { transact } from "../server/database/connection.ts";
import { Account, ClockRow, Draft, Edition, EventRow, Market } from "../server/database/models.ts";
import { readClock } from "../server/clock.ts";
import { deriveMarket } from "../server/bars/derive.ts";
import { storeEvents } from "../server/events/events.ts";
import { advance } from "../server/intake/feed.ts";
import { boardRow } from "../server/round/board.ts";
import { concat, firstAtOrAfter, slice } from "#core/series/series";
import { MINUTE } from "#core/time/dates";
import { keepArchive } from "./archive.ts";
import { countOf, runningWave } from "./counted.ts";
import { tiesOf, worldEvents } from "./events.ts";
import { makeBars, type DemoMarket } from "./market.ts";
import { sayOpinions } from "./opinions.ts";
import { PEOPLE } from "./people.ts";
import { saySentences } from "./sentences.ts";
import type { PlantedWave } from "./waves.ts";
import { BLANK, DERIVED, MARKETS, SPAN } from "./world.ts";

/** Fills an empty desk with the Meridian Isles; a desk that has them is left as it is. Returns whether it did. */
export async function seedWorld(): Promise<boolean> {
  // The edition comes last: without one whatever is here is the beginning of a world that was cut short.
  if ((await Edition.count()) > 0) return false;
  for (const model of [Draft, ClockRow, EventRow, Market, Account])
    await (model as ModelStatic<Model>).destroy({ where: {} });
  const truths = new Map<string, PlantedWave>();
  // Market by market, so that twenty years of one are let go soon: the next are made while they are stored.
  let stored = Promise.resolve();
  for (const market of MARKETS) {
    const made = makeBars(market, SPAN, MARKETS);
    await stored;
    stored = storeMarket(market, made);
    truths.set(market.id, made.truth);
  }
  await stored;
  for (const { name, form, legs, scale, tick, decimals, pip, pipName } of DERIVED) {
    const made = await deriveMarket({ name, form, legs, scale, tick, decimals, hoursOf: "" });
    await made.update({ pip, pipName });
  }
  await storeEvents(worldEvents(MARKETS, SPAN), "the Isles' calendar");
  await ClockRow.create({ id: 1, now: SPAN.firstSaid, speed: 0, wallTime: Date.now() });
  const analyst = await createAccount(PEOPLE.analyst, "analyst");
  await createAccount(PEOPLE.owner, "owner");
  const colleague = await createAccount(PEOPLE.colleague, "analyst");
  await createAccount(PEOPLE.reviewer, "reviewer");
  await createAccount(PEOPLE.moderator, "moderator");
  await createAccount(PEOPLE.subscriber, "subscriber");
  await createAccount(PEOPLE.newcomer, "subscriber");
  const [{ id }, ...others] = MARKETS;
  const spoken = others.filter(({ id: own }) => !BLANK.includes(own));
  const watched = await listed(spoken);
  await saySentences(watched, countedBy(truths, analyst.id), analyst, SPAN.firstSaid);
  await keepArchive(watched, { morning: analyst, close: colleague }, SPAN.firstSaid, SPAN.now);
  await advance((SPAN.now - (await readClock()).now) / MINUTE);
  const truth = truths.get(id);
  if (truth) await sayOpinions(id, truth, analyst, SPAN.now);
  return true;
}

/** Markets of the world in their order. */
async function listed(of: readonly DemoMarket[]): Promise<Market[]> {
  const rows = new Map((await Market.findAll()).map((row) => [row.id, row]));
  return of.flatMap(({ id }) => rows.get(id) ?? []);
}

const countedBy = (truths: ReadonlyMap<string, PlantedWave>, author: string) => async (market: Market) => {
  const truth = truths.get(market.id);
  return truth && countOf(market, await runningWave(market, truth), "P1D", "Intermediate", author);
};

/**
 * Reads every market as its row of the board wants it, and keeps that: done while the desk is open already, which reads
 * those that somebody asks for before their turn.
 */
export async function readMarkets(): Promise<void> {
  const analyst = await Account.findOne({ where: { role: "analyst" }, order: [["createdAt", "ASC"]] });
  if (!analyst) return;
  for (const { id } of await Market.findAll({ attributes: ["id"], order: [["id", "ASC"]] }))
    await boardRow(id, analyst.id);
}

async function storeMarket(market: DemoMarket, made: ReturnType<typeof makeBars>): Promise<void> {
  const { daily, quarters, minutes, tape } = made;
  const { id, name, kind, tick, pip, pipName, decimals, calendar } = market;
  await transact(async (transaction) => {
    await Market.create(
      { id, name, kind, tick, pip, pipName, decimals, calendar, ties: tiesOf(market) },
      { transaction },
    );
    await appendBars({ marketId: id, base: "P1D", shelf: "live" }, daily, transaction);
    await appendBars({ marketId: id, base: "PT15M", shelf: "live" }, quarters, transaction);
    // A bar is known once it is over; what came after the first words were said is played.
    const cut = firstAtOrAfter(minutes, SPAN.firstSaid - MINUTE + 1);
    const later = concat([slice(minutes, cut, minutes.length), tape]);
    await appendBars({ marketId: id, base: "PT1M", shelf: "live" }, slice(minutes, 0, cut), transaction);
    await appendBars({ marketId: id, base: "PT1M", shelf: "tape" }, later, transaction);
  });
}
