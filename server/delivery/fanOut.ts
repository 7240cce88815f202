import { whenSent, wantsEdition, wantsMoment, CHOICES, type ReaderChoices } from "#core/readers/choices";
import { offsetAt } from "#core/time/zone";
import { sightsByPlan, type Sight } from "../accounts/plans.ts";
import {
  type NewsKind,
  Account,
  AlertRow,
  HookRow,
  PushRow,
  ReaderChoicesRow,
  type OutboxRow,
} from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
import { spread, type Message } from "../outbox/outbox.ts";
import { eventSeen } from "#core/edition/eventParts";
import { listEditions, type EditionLine } from "../publishing/editions.ts";
import { seenFrom } from "../readers/seen.ts";
import { enteredEvent } from "../record/events.ts";
import { frozenScenarios } from "../record/frozen.ts";

interface Reader {
  id: string;
  sight: Sight;
  choices: ReaderChoices;
  /** Ids of the addresses of their own programs. */
  hooks: readonly string[];
  /** Ids of their browsers that are notified. */
  pushes: readonly string[];
}

/** Readers with a confirmed address, with what their plan shows and what they chose. */
async function readers(): Promise<Reader[]> {
  const [accounts, chosen, sights, hooksOf, pushesOf] = await Promise.all([
    Account.findAll({
      where: { role: "subscriber", closedAt: null },
      attributes: ["id", "plan", "confirmedAt"],
      raw: true,
    }),
    ReaderChoicesRow.findAll(),
    sightsByPlan(),
    HookRow.findAll({ attributes: ["id", "accountId"], raw: true }).then(byAccount),
    PushRow.findAll({ attributes: ["id", "accountId"], raw: true }).then(byAccount),
  ]);
  const choices = new Map(chosen.map((row) => [row.accountId, row.choices]));
  return accounts.flatMap(({ id, plan, confirmedAt }) => {
    const sight = sights.get(plan);
    if (!sight || confirmedAt === null) return [];
    const ways = { hooks: hooksOf.get(id) ?? [], pushes: pushesOf.get(id) ?? [] };
    return [{ id, sight, choices: { ...CHOICES, ...choices.get(id) }, ...ways }];
  });
}

function byAccount(rows: readonly { id: string; accountId: string }[]): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const { id, accountId } of rows) found.set(accountId, [...(found.get(accountId) ?? []), id]);
  return found;
}

/** What one reader is told from some instant on, by each of their ways. Programs have no quiet hours. */
function messagesTo({ id, choices, hooks, pushes }: Reader, name: string, what: object, from: number): Message[] {
  const message = (kind: Message["kind"], by: string, of: object, dueAt: number): Message => ({
    ...{ kind, name: `${name} to ${id}${by && ` by ${by}`}`, accountId: id, what: { ...what, ...of }, dueAt },
  });
  const awake = sentAt(from, choices);
  return [
    ...(choices.mail ? [message("mail", "", {}, awake)] : []),
    ...pushes.map((push) => message("push", push.slice(0, 12), { push }, awake)),
    ...hooks.map((hook) => message("hook", hook, { hook }, from)),
  ];
}

const hourIn = (zone: string) => (instant: number) => {
  const civil = instant + offsetAt(instant, zone);
  return (((civil / 3_600_000) % 24) + 24) % 24;
};

const sentAt = (due: number, { quiet, zone }: ReaderChoices) => whenSent(due, quiet, hourIn(zone));

/** Makes of news the messages that readers want, each when their plan and their quiet hours let it be sent. */
export async function fanOut(news: OutboxRow): Promise<void> {
  const made: Readonly<Record<NewsKind, (news: OutboxRow) => Promise<Message[]>>> = {
    edition: ofEdition,
    events: ofEvent,
    digest: ofWeek,
    alerts: ofAlert,
  };
  await spread(news, await made[news.kind as NewsKind](news));
}

async function ofEdition({ what }: OutboxRow): Promise<Message[]> {
  const { edition: number } = what as { edition: number };
  const edition = await lineOfEdition(number);
  if (!edition) return [];
  const asked = {
    kind: edition.kind,
    markets: edition.markets.map(({ id }) => id),
    corrects: edition.corrects !== null,
  };
  return (await readers()).flatMap((reader): Message[] => {
    const from = seenFrom(edition, reader.sight);
    if (from === undefined || !wantsEdition(reader.choices, asked)) return [];
    return messagesTo(reader, `edition ${number}`, { edition: number }, from);
  });
}

const lineOfEdition = async (number: number): Promise<EditionLine | undefined> =>
  (await listEditions()).find((line) => line.number === number);

/** The week that ended: by mail alone, to who asked for it. */
async function ofWeek({ what }: OutboxRow): Promise<Message[]> {
  const { until } = what as { until: number };
  const day = new Date(until).toISOString().slice(0, 10);
  return (await readers()).flatMap((reader): Message[] =>
    reader.choices.digest ? messagesTo({ ...reader, hooks: [], pushes: [] }, `week ${day}`, { until }, until) : [],
  );
}

/** A price somebody waits for: told to who set the alert, where that is a reader. */
async function ofAlert({ what, name, createdAt }: OutboxRow): Promise<Message[]> {
  const alert = await AlertRow.findByPk((what as { alert: string }).alert);
  const own = alert && isSealed(alert) && (await readers()).find(({ id }) => id === alert.accountId);
  return own ? messagesTo(own, name, what, createdAt) : [];
}

/** What happened to a call: one message to each who wants to be told of that. */
async function ofEvent({ what, createdAt }: OutboxRow): Promise<Message[]> {
  const { edition: number, scenarioId, sequence } = what as { edition: number; scenarioId: string; sequence: number };
  const edition = await lineOfEdition(number);
  // What happened is read from the record: a row that waits to be sent only names it.
  const event = await enteredEvent(number, scenarioId, sequence);
  const call = (await frozenScenarios([number])).get(number)?.get(scenarioId);
  if (!edition || !event || !call) return [];
  return (await readers()).flatMap((reader): Message[] => {
    const { sight, choices } = reader;
    const from = seenFrom(edition, sight);
    const isShown = eventSeen(event, sight.parts) !== undefined;
    if (from === undefined || !isShown || !wantsMoment(choices, call.market.id, event.event)) return [];
    const name = `event ${number} ${scenarioId} ${sequence}`;
    return messagesTo(reader, name, { edition: number, scenarioId, sequence }, Math.max(from, createdAt));
  });
}
