import { sealed } from "../secret.ts";
import { readSettings } from "../settings.ts";

/** Where readers find the site, without a slash at the end. */
export function siteAddress(): string {
  const { COMPASS_ADDRESS, COMPASS_PORT } = readSettings();
  return (COMPASS_ADDRESS ?? `http://127.0.0.1:${COMPASS_PORT}`).replace(/\/+$/, "");
}

export const outlookAddress = (number: number) => `${siteAddress()}/outlooks/${number}`;

/** Where a reader ends all mail without signing in (RFC 8058). */
export const unsubscribeAddress = (accountId: string) =>
  `${siteAddress()}/unsubscribe/${sealed("unsubscribe", accountId)}`;

/** The part of mail addresses and message names behind the sign. */
export const mailDomain = () => new URL(siteAddress()).hostname;
