import { againUnderLease } from "../database/lease.ts";
import { audit } from "../audit/audit.ts";
import { calendarOf, findMarket } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import { Draft, type ByWhom, type GoesOut } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { log } from "../log.ts";
import { beforePublishing } from "./before.ts";
import { findDraft } from "./drafts.ts";
import { composeAll } from "./freeze.ts";
import { tellHeld } from "./held.ts";
import { lacksOf, refuse } from "./publishable.ts";
import { publish } from "./publish.ts";
import { checkVoices } from "./voices.ts";

/** How far ahead a draft may be told to go out. */
const FURTHEST = 60 * 86_400_000;

/** When the next session of a market opens, after an instant. */
export async function nextOpen(marketId: string, after: number): Promise<number> {
  const market = await findMarket(marketId);
  const calendar = calendarOf(market);
  for (let day = calendar.tradingDate(after), n = 0; n < 30; day = calendar.nextTradingDate(day), n++) {
    const next = calendar.sessions(day).find(({ open }) => open > after);
    if (next) return next.open;
  }
  throw new Failure("closed", `${market.name} does not open within a month.`, { kept: "Nothing was decided." });
}

/** Says when a draft goes out by itself: at an instant of market time, or when a market opens. */
export async function letGoOut(id: string, when: { at: number } | { market: string }, by: ByWhom): Promise<GoesOut> {
  const draft = await findDraft(id);
  const { now } = await readClock();
  const at = "at" in when ? when.at : await nextOpen(when.market, now);
  if (!(at > now && at <= now + FURTHEST))
    throw new Failure("when", "It goes out later than now, and within sixty days.", { kept: "Nothing was decided." });
  const sections = await composeAll(draft);
  // As it will be held against then: what lapses before it goes out is no call any more.
  refuse(lacksOf(draft, sections, at), "The draft is saved; nothing was decided.");
  await checkVoices(draft);
  const goesOut: GoesOut = {
    at,
    ...("market" in when ? { market: when.market } : {}),
    by: { id: by.id, name: by.name },
    version: draft.version,
    knew: await beforePublishing(draft, sections),
  };
  const [changed] = await Draft.update({ goesOut }, { where: { id, version: draft.version, published: null } });
  if (changed === 0)
    throw new Failure("stale", "The draft was changed meanwhile.", { status: 409, kept: "Nothing was decided." });
  await audit({ what: "going out", subject: `draft ${id.slice(0, 8)}, ${new Date(at).toISOString()}`, by });
  return goesOut;
}

/** It does not go out by itself any more. */
export async function keepBack(id: string): Promise<void> {
  await Draft.update({ goesOut: null }, { where: { id, published: null } });
}

/** Sentences that change with every minute, and are no news. */
const isOfTheHour = (sentence: string) => / in \d+ min\.$/.test(sentence);

/** Why a draft is not what it was when somebody said it would go out; `undefined` where it is. */
async function staleness(draft: Draft, { version, knew }: GoesOut): Promise<string | undefined> {
  if (draft.version !== version) return "It was changed since it was said to go out.";
  const news = (await beforePublishing(draft, await composeAll(draft))).filter(
    (sentence) => !knew.includes(sentence) && !isOfTheHour(sentence),
  );
  return news.length > 0 ? `New since it was said to go out: ${news.join(" ")}` : undefined;
}

/**
 * Publishes what is to go out by now, each as whoever decided it. One that is not what it was is held, with the reason
 * beside it. Any number of processes may do so at once: a draft is published once.
 */
export async function publishDue(): Promise<void> {
  const { now } = await readClock();
  const waiting = await Draft.findAll({ where: { published: null }, attributes: ["id", "goesOut"] });
  for (const { id, goesOut } of waiting) {
    if (!goesOut || goesOut.held !== undefined || goesOut.at > now) continue;
    const draft = await findDraft(id);
    let held = await staleness(draft, goesOut);
    if (held === undefined)
      try {
        await publish(id, goesOut.by, { another: true });
      } catch (error) {
        if (!(error instanceof Failure)) throw error;
        held = error.sentence;
      }
    if (held === undefined) continue;
    await Draft.update({ goesOut: { ...goesOut, held } }, { where: { id, published: null } });
    await tellHeld(draft, goesOut);
    log.warn({ draft: id, held }, "a draft did not go out");
  }
}

/** Looks every few seconds for what is to go out. */
export const runSchedule = (every = 3_000): (() => void) =>
  againUnderLease("schedule", publishDue, every, "it could not be looked for what is to go out");
