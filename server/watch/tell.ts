import { randomUUID } from "node:crypto";
import type { Transaction } from "sequelize";
import { Crowd, type Member } from "#core/observe/crowd";
import { asInstant, EVER } from "#core/observe/instant";
import { WatcherRow, type Market, type WatcherKind } from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
import { alerts } from "./alerts.ts";
import type { Kind, Watched } from "./kind.ts";
import { tellCalls } from "./calls.ts";
import { setups } from "./setups.ts";
import { momentsOf } from "./tapes.ts";

/** Those who watch for somebody at the desk, or for one reader; published calls have a way of their own. */
const KINDS: Record<Exclude<WatcherKind, "scenario">, Kind> = { alert: alerts, setup: setups };

/** Begins to watch a market that is locked: bars that open at `since` or later count. */
export async function beginToWatch(
  market: Market,
  watchers: readonly { kind: WatcherKind; subject: string; start: unknown }[],
  since: number,
  transaction: Transaction,
): Promise<void> {
  const others = await WatcherRow.count({ where: { ...watching(market), done: false }, transaction });
  // Nobody has been listening: what was told to nobody is told to nobody now.
  if (others === 0) await market.update({ toldThrough: Math.max(since, market.toldThrough ?? since) }, { transaction });
  const rows = watchers.map(({ kind, subject, start }) => ({
    id: randomUUID(),
    kind,
    subject,
    marketId: market.id,
    state: start,
    since,
    done: false,
    through: null,
  }));
  await WatcherRow.bulkCreate(rows, { transaction });
}

/** Ends a watch whose subject is taken away. */
export async function endWatch(kind: WatcherKind, subject: string, transaction: Transaction): Promise<void> {
  await WatcherRow.destroy({ where: { kind, subject }, transaction });
}

/** One watcher at work: from when on it is told, what it has made of it, and what it has said. */
interface AtWork extends Member {
  watched: Watched;
  said: unknown[];
  ended: number | null;
}

/**
 * Tells a market's watchers what its bars say that they have not been told, up to an instant, in the transaction that
 * stores the bars: a bar and what it told are known together or not at all. Each stretch of time is told once, whatever
 * bars come for it later. The market must be locked. Returns how much was said.
 */
export async function tell(market: Market, until: number, transaction: Transaction): Promise<number> {
  return (await tellCalls(market, until, transaction)) + (await tellOthers(market, until, transaction));
}

const watching = ({ id }: Market) => ({ marketId: id, kind: Object.keys(KINDS) as WatcherKind[] });

async function tellOthers(market: Market, until: number, transaction: Transaction): Promise<number> {
  const rows = await WatcherRow.findAll({
    where: { ...watching(market), done: false },
    order: [["id", "ASC"]],
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  if (rows.length === 0) return 0;
  const atWork = await prepare(market, rows, transaction);
  const needs = atWork.flatMap(({ watched }) => watched.watcher.needs);
  const before = market.toldThrough ?? EVER;
  let told = before;
  const from = Math.min(before, ...atWork.map((one) => one.from));
  const crowd = new Crowd(atWork);
  for await (const moment of momentsOf(market, needs, asInstant(from), asInstant(until))) {
    told = Math.max(told, moment.told.to);
    crowd.next(moment, (one, events) => {
      one.said.push(...events);
      if (one.watcher.isDone(one.state)) one.ended = moment.told.to;
    });
  }
  let said = 0;
  for (const one of atWork) said += await keep(one, transaction);
  if (told !== before) await market.update({ toldThrough: told }, { transaction });
  return said;
}

async function prepare(market: Market, rows: readonly WatcherRow[], transaction: Transaction): Promise<AtWork[]> {
  const out: AtWork[] = [];
  const through = market.toldThrough;
  for (const [name, kind] of Object.entries(KINDS)) {
    // What somebody else wrote into a row is followed by nobody; a check of the record names it.
    const own = rows.filter((row) => row.kind === name && isSealed(row));
    if (own.length === 0) continue;
    for (const [i, watched] of (await kind.prepare(market, own, transaction)).entries()) {
      const row = own[i];
      if (watched === "gone") await row.update({ done: true, through }, { transaction });
      else if (watched === "unknown") await row.update({ through: row.through ?? through }, { transaction });
      else {
        const from = Math.max(row.since, row.through ?? through ?? EVER);
        out.push({ watched, watcher: watched.watcher, from, state: row.state, said: [], ended: null });
      }
    }
  }
  return out;
}

async function keep({ watched, state, said, ended }: AtWork, transaction: Transaction): Promise<number> {
  const { row } = watched;
  // Most bars say nothing to most watchers: what stands is not written again.
  const isChanged = JSON.stringify(state) !== JSON.stringify(row.state) || row.through !== ended;
  if (isChanged) await row.update({ state, done: ended !== null, through: ended }, { transaction });
  return said.length > 0 ? watched.keep(said, transaction) : 0;
}
