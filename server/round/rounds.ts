import { randomUUID } from "node:crypto";
import { Op, type Transaction } from "sequelize";
import type { RoundStepDto } from "#contracts/round";
import type { Verdict } from "#core/round/verdict";
import { DAY } from "#core/time/dates";
import { transact } from "../database/connection.ts";
import { Account, LookRow, Market, RoundRow, VerdictRow } from "../database/models.ts";
import { Failure } from "../failure.ts";
import { readClock } from "../clock.ts";

export interface SaidVerdict {
  rung: string;
  verdict: Verdict;
  remark: string;
  saidAt: number;
  /** Close after which it is asked again; none when it was said on a closed bar. */
  asksAt: number | null;
}

export interface OpenRound {
  id: string;
  startedAt: number;
  verdicts: Record<string, SaidVerdict>;
}

/** A round that nobody went on with for this long is over. */
const STALE = DAY / 2;

/** The round that is on, if one is, and how many were begun on this day (UTC) of the market's clock. */
export async function openRoundOf(
  accountId: string,
  listId: string,
  now: number,
): Promise<{ round: OpenRound | null; today: number }> {
  const day = Math.floor(now / DAY) * DAY;
  const row = await openRow(accountId, listId, now);
  const [today, verdicts] = await Promise.all([
    RoundRow.count({ where: { accountId, listId, kind: "round", startedAt: { [Op.gte]: day } } }),
    row ? VerdictRow.findAll({ where: { roundId: row.id } }) : [],
  ]);
  return {
    round: row && {
      id: row.id,
      startedAt: row.startedAt,
      verdicts: Object.fromEntries(verdicts.map((one) => [one.marketId, saidOf(one)])),
    },
    today,
  };
}

/** Markets that the round which is on, of any list, has called to be watched or planned. */
export async function watchedMarkets(accountId: string): Promise<string[]> {
  const { now } = await readClock();
  const rounds = await RoundRow.findAll({
    where: { accountId, kind: "round", startedAt: { [Op.gt]: now - STALE, [Op.lte]: now } },
    attributes: ["id"],
    raw: true,
  });
  const verdicts = await VerdictRow.findAll({
    where: { roundId: rounds.map(({ id }) => id), verdict: ["watch", "plan"] },
    order: [["saidAt", "ASC"]],
    raw: true,
  });
  return [...new Set(verdicts.map(({ marketId }) => marketId))];
}

/** The clock of a simulated feed can be put back: a round of the future is none that is on. */
async function openRow(
  accountId: string,
  listId: string,
  now: number,
  transaction?: Transaction,
): Promise<RoundRow | null> {
  return RoundRow.findOne({
    where: { accountId, listId, kind: "round", endedAt: null, startedAt: { [Op.gt]: now - STALE, [Op.lte]: now } },
    order: [["startedAt", "DESC"]],
    transaction,
    ...(transaction ? { lock: transaction.LOCK.UPDATE } : {}),
  });
}

function saidOf({ rung, verdict, remark, saidAt, asksAt }: VerdictRow): SaidVerdict {
  return { rung, verdict, remark, saidAt, asksAt };
}

/**
 * The last words on every market in rounds other than the one that is on; evening lists speak too. "Nothing here"
 * without a word takes back what was watched, and leaves the remark.
 */
export async function lastRemarks(
  accountId: string,
  exceptRound: string | undefined,
): Promise<Map<string, SaidVerdict>> {
  const rounds = await RoundRow.findAll({
    where: { accountId, ...(exceptRound ? { id: { [Op.ne]: exceptRound } } : {}) },
    attributes: ["id"],
    order: [["startedAt", "DESC"]],
    limit: 40,
    raw: true,
  });
  const rows = await VerdictRow.findAll({
    where: { roundId: rounds.map(({ id }) => id) },
    order: [["saidAt", "ASC"]],
  });
  const last = new Map<string, SaidVerdict>();
  for (const row of rows) {
    const before = last.get(row.marketId);
    if (row.verdict !== "nothing" || row.remark !== "") last.set(row.marketId, saidOf(row));
    else if (before) last.set(row.marketId, { ...before, verdict: "nothing" });
  }
  return last;
}

/**
 * Writes down steps of a round, all of them or none: looks, verdicts, and its end. The first step of a round begins it.
 * Saying the same twice changes nothing the second time. Returns the round that is on afterwards.
 */
export async function sayInRound(
  listId: string,
  steps: readonly RoundStepDto[],
  accountId: string,
): Promise<{ round: string | null }> {
  const { now } = await readClock();
  const markets = new Set((await Market.findAll({ attributes: ["id"], raw: true })).map(({ id }) => id));
  return transact(async (transaction) => {
    // One after the other: of several first looks that come at once one begins the round.
    await Account.findByPk(accountId, { attributes: ["id"], transaction, lock: transaction.LOCK.UPDATE });
    let round = await openRow(accountId, listId, now, transaction);
    for (const { step, market, rung, verdict, remark, asksAt, summary, stops, looked, at } of steps) {
      if (step === "end") {
        await round?.update(
          { endedAt: now, summary: summary ?? "", stops: stops ?? 0, looked: looked ?? 0 },
          { transaction },
        );
        round = null;
        continue;
      }
      if (!market || !rung || !markets.has(market))
        throw new Failure("market", "There is no such market.", { status: 404, kept: "Nothing was written down." });
      round ??= await beginRound(accountId, listId, now, transaction);
      const when = Math.min(at ?? now, now);
      if (step === "look") await LookRow.upsert({ accountId, marketId: market, rung, lookedAt: when }, { transaction });
      else
        await VerdictRow.upsert(
          {
            roundId: round.id,
            marketId: market,
            rung,
            verdict: verdict ?? "nothing",
            remark: remark ?? "",
            saidAt: now,
            asksAt: asksAt ?? null,
          },
          { transaction },
        );
    }
    return { round: round?.id ?? null };
  });
}

async function beginRound(accountId: string, listId: string, now: number, transaction: Transaction): Promise<RoundRow> {
  // What was left open is over now.
  await RoundRow.update({ endedAt: now }, { where: { accountId, listId, kind: "round", endedAt: null }, transaction });
  return RoundRow.create(
    {
      id: randomUUID(),
      accountId,
      listId,
      kind: "round",
      startedAt: now,
      endedAt: null,
      summary: "",
      stops: 0,
      looked: 0,
    },
    { transaction },
  );
}

export interface PastRound {
  id: string;
  kind: "round" | "evening";
  startedAt: number;
  endedAt: number | null;
  summary: string;
  stops: number;
  looked: number;
  verdicts: (SaidVerdict & { market: string; name: string })[];
}

/** Past rounds, the newest first, with what was said in them apart from nothing. */
export async function pastRounds(accountId: string, limit = 30): Promise<PastRound[]> {
  const rows = await RoundRow.findAll({ where: { accountId }, order: [["startedAt", "DESC"]], limit, raw: true });
  const verdicts = await VerdictRow.findAll({
    where: {
      roundId: rows.map(({ id }) => id),
      [Op.or]: [{ remark: { [Op.ne]: "" } }, { verdict: { [Op.ne]: "nothing" } }],
    },
    order: [["saidAt", "ASC"]],
  });
  const names = new Map(
    (await Market.findAll({ attributes: ["id", "name"], raw: true })).map(({ id, name }) => [id, name]),
  );
  return rows.map(({ id, kind, startedAt, endedAt, summary, stops, looked }) => ({
    id,
    kind,
    startedAt,
    endedAt,
    summary,
    stops,
    looked,
    verdicts: verdicts
      .filter(({ roundId }) => roundId === id)
      .map((row) => ({ ...saidOf(row), market: row.marketId, name: names.get(row.marketId) ?? row.marketId })),
  }));
}
