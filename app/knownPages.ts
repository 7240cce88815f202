import { LRUCache } from "lru-cache";
import type { Caller, Person } from "../server/accounts/sessions.ts";

/** How long it is known what somebody is shown (ms): what another process has changed shows after that. */
const KNOWN = 1_000;
const MOST = 2_000;

interface Known {
  digest: string;
  /** Writes of this process before what is shown was read. */
  writes: number;
}

const byReader = new LRUCache<string, Known>({ max: MOST, ttl: KNOWN });
const addresses = new LRUCache<string, true>({ max: MOST, ttl: KNOWN });

/** What a page may depend on besides its address; `undefined` of somebody who is shown something of their own. */
function keyOf(address: string, { role, plan, reading, hasOwn }: Person & Partial<Caller>): string | undefined {
  if (role !== "subscriber" || plan === undefined || reading === undefined || hasOwn !== false) return undefined;
  return JSON.stringify([address, plan, reading.zone, reading.larger]);
}

/**
 * Remembers by its digest which page somebody was shown, so that others on the same plan who read in the same way need
 * not have it worked out again. `writes` are those of this process before the page's data was read.
 */
export function rememberPage(address: string, person: Person & Partial<Caller>, digest: string, writes: number): void {
  const key = keyOf(address, person);
  if (key === undefined) return;
  byReader.set(key, { digest, writes });
  addresses.set(address, true);
}

/** Whether anybody's page of an address is known: only then is it worth asking who asks. */
export const isKnownAddress = (address: string): boolean => addresses.has(address);

/** The digest of the page somebody is shown, as long as nothing was written since. */
export function knownPage(address: string, person: Caller, writes: number): string | undefined {
  const key = keyOf(address, person);
  const known = key === undefined ? undefined : byReader.get(key);
  return known?.writes === writes ? known.digest : undefined;
}
