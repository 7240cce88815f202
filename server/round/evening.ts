import { randomUUID } from "node:crypto";
import type { EveningDto } from "#contracts/evening";
import { waitingOf } from "#core/finding/answer";
import { placesOf } from "#core/finding/found";
import type { MarketFacts } from "#core/marks/kind";
import { worthOfFound } from "#core/measure/worthText";
import { planAreas, proposalLines, type PlanArea } from "#core/round/dayPlan";
import { followedOn, isSilent } from "#core/marks/registry";
import { lengthOf } from "#core/marks/shown";
import { countText } from "#core/marks/wording";
import { closeOfBar } from "#core/series/resample";
import { bucketOfBar } from "#core/time/boundaries";
import { MINUTE } from "#core/time/dates";
import { calendarOf, factsOf, findMarket } from "../bars/markets.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import { seriesOf } from "../bars/series.ts";
import { transact } from "../database/connection.ts";
import { Market, RoundRow, VerdictRow } from "../database/models.ts";
import { findingParamsOf } from "../desk/findingParams.ts";
import { marksOf } from "../desk/marks.ts";
import { readingsOf } from "../desk/readings.ts";
import { rungSetsOf } from "../desk/rungSets.ts";
import { keptWorth } from "../desk/worth.ts";
import { readClock } from "../clock.ts";
import { livesOf } from "../desk/lives.ts";
import { lastRemarks } from "./rounds.ts";
import { sayEvent } from "#core/marks/sayEvent";

export interface MarkLine {
  id: string;
  rung: string;
  says: string;
  /** What ended it, and when. */
  end?: { sentence: string; time: number };
  /** Distance of its nearest price from the last one, in price units; above zero when it lies higher. */
  distance: number;
}

/** What a trading date did to a market's marks. */
export interface Evening {
  market: MarketFacts;
  price: number | undefined;
  /** First instant of the trading date. */
  since: number;
  died: MarkLine[];
  /** What the machine found on it, as the areas it makes: the few nearest, and how many more. */
  formed: PlanArea[];
  moreFormed: number;
  stands: MarkLine[];
  remark: string;
}

const MOST_FORMED = 4;
const MOST_STANDING = 12;
/** What forms on shorter rungs in a day is gone the next one. */
const SHORTEST = 15 * MINUTE;

/** What died on the market's last trading date, what formed, and what stands for the next. */
export async function eveningOf(marketId: string, accountId: string): Promise<Evening> {
  const [market, { chosen }, remarks] = await Promise.all([
    findMarket(marketId),
    rungSetsOf(accountId),
    lastRemarks(accountId, undefined),
  ]);
  const remark = remarks.get(market.id)?.remark ?? "";
  const days = await seriesOf(market, "P1D");
  const calendar = calendarOf(market);
  if (days.length === 0)
    return {
      market: factsOf(market),
      price: undefined,
      since: 0,
      died: [],
      formed: [],
      moreFormed: 0,
      stands: [],
      remark,
    };
  const since = bucketOfBar(days.time[days.length - 1], readTimeframe("P1D"), calendar).from;
  const price = days.close[days.length - 1];
  const marks = await marksOf(market.id);
  const lived = await livesOf(
    marks.filter((mark) => !isSilent(mark)),
    (rung) => seriesOf(market, rung),
    factsOf(market),
    calendar,
  );
  const lineOf = ({ mark, says }: (typeof lived)[number]): MarkLine => ({
    id: mark.id,
    rung: mark.rung,
    says,
    distance: nearest(
      mark.anchors.map((anchor) => anchor.price),
      price,
    ),
  });
  const knownAt = (rung: string, time: number) => closeOfBar(time, readTimeframe(rung), calendar);
  const died = lived.flatMap((one) => {
    const last = one.life.events.at(-1);
    return one.life.dead && last && knownAt(followedOn(one.mark), last.time) > since
      ? [
          {
            ...lineOf(one),
            end: { sentence: sayEvent(one.mark, last), time: knownAt(followedOn(one.mark), last.time) },
          },
        ]
      : [];
  });
  const stands = lived
    .filter(({ life, mark }) => !life.dead && !mark.hidden)
    .map(lineOf)
    .sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance))
    .slice(0, MOST_STANDING);
  const rungs = chosen.rungs.map(({ rung }) => rung).filter((rung) => lengthOf(rung) >= SHORTEST);
  const { facts, rungs: readings } = await readingsOf(market, rungs, await findingParamsOf(accountId, chosen.id));
  const found = placesOf(waitingOf(facts, marks)).filter(
    ({ step, rung, knownAt: time }) => step !== "structure" && knownAt(rung, time) > since,
  );
  const worth = await keptWorth(market, rungs);
  const atrOf = (rung: string) => readings.find((one) => one.rung === rung)?.atr ?? 0;
  const { areas: formed, rest } = planAreas(
    proposalLines(found),
    {
      ...{ price, tick: market.tick, unit: atrOf("P1D"), atrOf },
      isBetter: ({ fact }) => fact !== undefined && worthOfFound(fact, worth)?.worth.verdict === "better",
    },
    MOST_FORMED,
  );
  return { market: factsOf(market), price, since, died, formed, moreFormed: rest.length, stands, remark };
}

function nearest(prices: readonly number[], price: number): number {
  return prices.map((one) => one - price).sort((a, b) => Math.abs(a) - Math.abs(b))[0] ?? 0;
}

/** Keeps what is to be remembered in the morning: one remark a market, as an evening among the rounds. */
export function keepEvening({ remarks }: EveningDto, accountId: string): Promise<string> {
  return transact(async (transaction) => {
    const { now } = await readClock();
    const known = new Set((await Market.findAll({ attributes: ["id"], raw: true, transaction })).map(({ id }) => id));
    const said = remarks.filter(({ market, remark }) => known.has(market) && remark.trim() !== "");
    const id = randomUUID();
    await RoundRow.create(
      {
        id,
        accountId,
        listId: "",
        kind: "evening",
        startedAt: now,
        endedAt: now,
        summary: `${countText(said.length, "market")} to remember in the morning.`,
        stops: remarks.length,
        looked: remarks.length,
      },
      { transaction },
    );
    await VerdictRow.bulkCreate(
      said.map(({ market, remark, verdict }) => ({
        roundId: id,
        marketId: market,
        rung: "P1D",
        verdict,
        remark: remark.trim(),
        saidAt: now,
        asksAt: null,
      })),
      { transaction },
    );
    return id;
  });
}
