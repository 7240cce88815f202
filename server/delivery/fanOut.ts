import { whenSent, wantsEdition, wantsMoment, CHOICES, type ReaderChoices } from "#core/readers/choices";
import type { FollowUp } from "#core/scenarios/events";
import { offsetAt } from "#core/time/zone";
import { sightsByPlan, type Sight } from "../accounts/plans.ts";
import { Account, Edition, EditionMarket, ReaderChoicesRow, WatcherRow, type OutboxRow } from "../database/models.ts";
import { spread, type Message } from "../outbox/outbox.ts";
import { seenFrom, withoutOrders } from "../readers/seen.ts";
import { canSee } from "#core/edition/parts";
import { subjectOf } from "../record/subject.ts";

interface Reader {
  id: string;
  sight: Sight;
  choices: ReaderChoices;
}

/** Readers with a confirmed address, with what their plan shows and what they chose. */
async function readers(): Promise<Reader[]> {
  const [accounts, chosen, sights] = await Promise.all([
    Account.findAll({
      where: { role: "subscriber", closedAt: null },
      attributes: ["id", "plan", "confirmedAt"],
      raw: true,
    }),
    ReaderChoicesRow.findAll(),
    sightsByPlan(),
  ]);
  const choices = new Map(chosen.map((row) => [row.accountId, row.choices]));
  return accounts.flatMap(({ id, plan, confirmedAt }) => {
    const sight = sights.get(plan);
    return sight && confirmedAt !== null ? [{ id, sight, choices: { ...CHOICES, ...choices.get(id) } }] : [];
  });
}

const hourIn = (zone: string) => (instant: number) => {
  const civil = instant + offsetAt(instant, zone);
  return (((civil / 3_600_000) % 24) + 24) % 24;
};

const sentAt = (due: number, { quiet, zone }: ReaderChoices) => whenSent(due, quiet, hourIn(zone));

/** Makes of news the messages that readers want, each when their plan and their quiet hours let it be sent. */
export async function fanOut(news: OutboxRow): Promise<void> {
  await spread(news, news.kind === "edition" ? await ofEdition(news) : await ofEvent(news));
}

async function ofEdition({ what }: OutboxRow): Promise<Message[]> {
  const { edition: number } = what as { edition: number };
  const edition = await Edition.findByPk(number, { attributes: ["kind", "publishedAt", "corrects"], raw: true });
  if (!edition) return [];
  const rows = await EditionMarket.findAll({ where: { edition: number }, attributes: ["marketId"], raw: true });
  const asked = {
    kind: edition.kind,
    markets: rows.map(({ marketId }) => marketId),
    corrects: edition.corrects !== null,
  };
  return (await readers()).flatMap(({ id, sight, choices }): Message[] => {
    const from = seenFrom(edition, sight);
    if (from === undefined || !wantsEdition(choices, asked)) return [];
    const dueAt = sentAt(from, choices);
    return [{ name: `edition ${number} to ${id}`, accountId: id, what: { edition: number }, dueAt }];
  });
}

/** What happened to a call: one message to each who wants to be told of that. */
async function ofEvent({ what, createdAt }: OutboxRow): Promise<Message[]> {
  const {
    edition: number,
    scenarioId,
    sequence,
    event,
  } = what as unknown as {
    edition: number;
    scenarioId: string;
    sequence: number;
    event: FollowUp;
  };
  const edition = await Edition.findByPk(number, { attributes: ["kind", "publishedAt"], raw: true });
  const watcher = await WatcherRow.findOne({
    where: { kind: "scenario", subject: subjectOf(number, scenarioId) },
    attributes: ["marketId"],
    raw: true,
  });
  if (!edition || !watcher) return [];
  return (await readers()).flatMap(({ id, sight, choices }): Message[] => {
    const from = seenFrom(edition, sight);
    const isShown =
      canSee("scenarios", sight.parts) &&
      (canSee("scenarios+orders", sight.parts) || withoutOrders(event) !== undefined);
    if (from === undefined || !isShown || !wantsMoment(choices, watcher.marketId, event.event)) return [];
    const dueAt = sentAt(Math.max(from, createdAt), choices);
    const name = `event ${number} ${scenarioId} ${sequence} to ${id}`;
    return [{ name, accountId: id, what: { edition: number, scenarioId, sequence }, dueAt }];
  });
}
