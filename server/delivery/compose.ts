import { LRUCache } from "lru-cache";
import { followUpSentence } from "#core/scenarios/say";
import { listMarkets } from "../bars/markets.ts";
import { sayFiring } from "#core/alerts/say";
import { AlertRow, FiringRow, type OutboxRow } from "../database/models.ts";
import { isSealed } from "../database/sealing.ts";
import { Failure } from "../failure.ts";
import type { Sight } from "../accounts/plans.ts";
import { heldDrafts } from "../publishing/held.ts";
import { artefact, pictureFor } from "../publishing/pictures.ts";
import { eventSeen } from "#core/edition/eventParts";
import { asHtml } from "../readers/asHtml.ts";
import { asText } from "../readers/asText.ts";
import { html, type Html } from "../readers/html.ts";
import { seeEdition } from "../readers/seen.ts";
import { picturesSeen } from "../readers/seenPictures.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { enteredEvent } from "../record/events.ts";
import { issueToken } from "../accounts/tokens.ts";
import type { AccountMail } from "../accounts/mails.ts";
import type { TokenPurpose } from "../database/models.ts";
import { outlookAddress, siteAddress } from "./links.ts";
import { letterOfWeek } from "./week.ts";

/** A mail without whom it is to. */
export interface Letter {
  subject: string;
  text: string;
  html: Html;
  pictures: { cid: string; filename: string; content: Buffer }[];
  /** The page that says it. */
  address: string;
}

const HOUR = 3_600_000;
const utcMinute = (time: number) => `${new Date(time).toISOString().slice(0, 16).replace("T", " ")} UTC`;

/** Of mails about an account: what they say, and how long their link can be used. */
const ACCOUNT_MAILS: Record<AccountMail, { subject: string; says: string; link?: string; lasts?: number }> = {
  confirm: {
    subject: "Confirm your mail address",
    says: "Somebody, we hope you, wants to join Even Compass with this address. Choose your password here:",
    ...{ link: "confirm", lasts: 72 * HOUR },
  },
  invite: {
    subject: "You are invited to Even Compass",
    says: "An account was made for you. Choose a password here:",
    ...{ link: "invite", lasts: 7 * 24 * HOUR },
  },
  reset: {
    subject: "A new password",
    says: "Somebody, we hope you, asked for a new password. Choose it here, within the hour:",
    ...{ link: "reset", lasts: HOUR },
  },
  known: {
    subject: "You have an account already",
    says: "Somebody, we hope you, wanted to join Even Compass with this address. It has an account: sign in with it.",
  },
};

/** A mail about an account; its link is made here, and stands nowhere else. */
export async function accountLetter(mail: AccountMail, accountId: string): Promise<Letter> {
  const { subject, says, link, lasts } = ACCOUNT_MAILS[mail];
  const address = link
    ? `${siteAddress()}/${link}/${await issueToken({ purpose: link as TokenPurpose, accountId, lasts: lasts ?? HOUR })}`
    : `${siteAddress()}/sign-in`;
  return {
    subject,
    text: `${says}\n\n${address}\n\nIf it was not you, do nothing.`,
    html: html`<p>${says}</p>
      <p><a href="${address}">${address}</a></p>
      <p>If it was not you, do nothing.</p>`,
    ...{ pictures: [], address },
  };
}

/** What many readers are sent is put together once for each plan that sees the same of it. */
const letters = new LRUCache<string, Promise<Letter>>({ max: 40 });

/** To whoever wrote a draft: it was to go out and did not, and why. */
export async function heldLetter(draftId: string): Promise<Letter> {
  const draft = (await heldDrafts()).find(({ id }) => id === draftId);
  if (!draft) throw new Failure("over", "It is held no more.");
  const address = `${siteAddress()}/editions/${draft.id}`;
  const title = draft.title.trim() || "An outlook without a title";
  const says = `${title} was to go out at ${utcMinute(draft.at)} and did not. ${draft.held}`;
  return {
    subject: `Held: ${title}`,
    text: `${says}\n\nReaders wait for it: ${address}`,
    html: html`<p>${says}</p>
      <p>Readers wait for it: <a href="${address}">${address}</a></p>`,
    ...{ pictures: [], address },
  };
}

/** For a process that works on one desk after the other, as tests do. */
export function forgetLetters(): void {
  letters.clear();
}

/** What a message says to somebody who sees so much. Throws the Failure of what may not be seen. */
export function letterOf(
  { what: { hook: _, push: __, ...what } }: Pick<OutboxRow, "what">,
  sight: Sight,
  accountId: string,
): Promise<Letter> {
  // An alert is its owner's alone, whatever a row that waits to be sent says.
  if ("alert" in what) return ofAlert(what as never, accountId);
  const key = JSON.stringify([what, sight]);
  const known = letters.get(key);
  if (known) return known;
  const made = madeOf(what, sight);
  letters.set(key, made);
  // What failed is tried anew the next time.
  made.catch(() => letters.delete(key));
  return made;
}

function madeOf(what: Record<string, unknown>, sight: Sight): Promise<Letter> {
  if ("until" in what) return letterOfWeek(Number(what.until), sight);
  return "scenarioId" in what ? ofEvent(what as never, sight) : ofEdition(what as never, sight);
}

async function ofEdition({ edition: number }: { edition: number }, sight: Sight): Promise<Letter> {
  const { content } = await seeEdition(String(number), sight);
  const pictures = await phonePictures(number, sight);
  const address = outlookAddress(number);
  const cidOf = (chart: number) => pictures.find(({ cid }) => cid === `chart-${chart}@${number}`)?.cid;
  const body = asHtml(content, (chart) => (cidOf(chart) ? `cid:${cidOf(chart)}` : undefined));
  return {
    subject: content.title,
    text: `${asText(content)}\n\nAs a page: ${address}`,
    html: html`${body}
      <p><a href="${address}">As a page</a></p>`,
    ...{ pictures, address },
  };
}

async function phonePictures(number: number, sight: Sight): Promise<Letter["pictures"]> {
  const seen = await picturesSeen(number, sight);
  const made = [...seen.keys()].map(async (chart) => {
    const stored = await pictureFor(number, chart, "phone", sight.parts);
    if (!stored?.pngSha256) return [];
    const content = Buffer.from(await artefact(stored.pngSha256));
    return [{ cid: `chart-${chart}@${number}`, filename: `chart-${chart + 1}.png`, content }];
  });
  return (await Promise.all(made)).flat();
}

/** What somebody's own alert saw. */
async function ofAlert(
  { alert: alertId, event }: { alert: string; event: string },
  accountId: string,
): Promise<Letter> {
  const [alert, firing] = await Promise.all([
    AlertRow.findByPk(alertId),
    FiringRow.findOne({ where: { alertId, event } }),
  ]);
  const market = alert && (await listMarkets()).find(({ id }) => id === alert.marketId);
  // What somebody else wrote into the database is told to nobody.
  if (alert?.accountId !== accountId || !firing?.detail || !market || !isSealed(alert) || !isSealed(firing))
    throw new Failure("gone", "The alert was removed.", { status: 410 });
  const says = `${market.name}: ${sayFiring(alert.terms, firing.detail, market)}`;
  const when = `Market time ${new Date(firing.firedAt).toISOString().slice(0, 16).replace("T", " ")} UTC.`;
  const address = `${siteAddress()}/markets/${market.id}`;
  return {
    subject: says,
    text: `${says}\n\n${when} What was said of it: ${address}`,
    html: html`<p>${says}</p>
      <p>${when} <a href="${address}">What was said of it</a></p>`,
    ...{ pictures: [], address },
  };
}

interface EventAsked {
  edition: number;
  scenarioId: string;
  sequence: number;
}

async function ofEvent({ edition, scenarioId, sequence }: EventAsked, sight: Sight): Promise<Letter> {
  await seeEdition(String(edition), sight);
  const [told, scenarios] = await Promise.all([
    enteredEvent(edition, scenarioId, sequence),
    frozenScenarios([edition]),
  ]);
  const call = scenarios.get(edition)?.get(scenarioId);
  const market = call && (await listMarkets()).find(({ id }) => id === call.market.id);
  const event = told && eventSeen(told, sight.parts);
  if (!market || !event) throw new Failure("withheld", "This event is not shown on this plan.", { status: 403 });
  const {
    title,
    market: { name },
  } = call;
  const says = `${name}, ${title}. ${followUpSentence(event, market)}`;
  const when = utcMinute(event.knownAt);
  const address = outlookAddress(edition);
  return {
    subject: `${name}: ${followUpSentence(event, market)}`,
    text: `${says}\n\nMarket time ${when}. It was called in edition ${edition}: ${address}`,
    html: html`<p>${says}</p>
      <p>Market time ${when}. It was called in <a href="${address}">edition ${edition}</a>.</p>`,
    ...{ pictures: [], address },
  };
}
