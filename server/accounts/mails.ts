import { post } from "../outbox/outbox.ts";

/** Mails about an account itself: their links are made when they are sent, and stand in no table. */
export type AccountMail = "confirm" | "invite" | "reset" | "known";

const MINUTE = 60_000;

/** At most one of a kind a minute: whoever asks again and again fills nobody's mailbox. */
async function send(accountId: string, mail: AccountMail): Promise<boolean> {
  const name = `account ${mail} ${Math.floor(Date.now() / MINUTE)} to ${accountId}`;
  return post({ name, accountId, what: { account: mail } });
}

export const sendConfirmation = (accountId: string) => send(accountId, "confirm");
export const sendInvitation = (accountId: string) => send(accountId, "invite");
export const sendReset = (accountId: string) => send(accountId, "reset");
/** Somebody wanted to join with this address, which has an account already. */
export const sendKnown = (accountId: string) => send(accountId, "known");
