import { timingSafeEqual } from "node:crypto";
import { shortSeal } from "../secret.ts";

const PURPOSE = "mail that comes back";
const LOCAL = /^back-([0-9a-f]{32})-([0-9a-f]{20})$/i;

/**
 * Where mail to somebody goes back to when it cannot be delivered: an address for that account alone, of at most 64
 * letters and digits before its sign (RFC 5321, 4.5.3.1.1), which nobody else can make.
 */
export function returnAddress(accountId: string, domain: string): string {
  return `back-${accountId.replaceAll("-", "")}-${shortSeal(PURPOSE, accountId)}@${domain}`;
}

/** The account such an address is of; `undefined` of any other address. */
export function accountOfReturn(address: string): string | undefined {
  const [, plain, seal] = LOCAL.exec(address.split("@")[0]) ?? [];
  if (!plain || !seal) return undefined;
  const id = plain.toLowerCase().replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
  const own = Buffer.from(shortSeal(PURPOSE, id));
  return timingSafeEqual(own, Buffer.from(seal.toLowerCase())) ? id : undefined;
}
