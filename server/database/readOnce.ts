import { LRUCache } from "lru-cache";
import { currentTransaction, writesSoFar } from "./connection.ts";

/** How old what another process has changed may be shown (ms). */
const OLDEST = 1_000;

interface Kept {
  value: Promise<unknown>;
  /** Writes of this process before it was read. */
  writes: number;
}

const kept = new LRUCache<string, Kept>({ max: 500, ttl: OLDEST });

/**
 * What many ask for at the same moment is read once: after a publication everybody comes for the same. What is shown is
 * at most a second old, and never from before something this process has written; within a transaction nothing is
 * shared. What is returned stands in answers to others as well and must not be changed.
 */
export function readOnce<T>(what: readonly unknown[], read: () => Promise<T>): Promise<T> {
  if (currentTransaction()) return read();
  const key = JSON.stringify(what);
  const known = kept.get(key);
  if (known?.writes === writesSoFar()) return known.value as Promise<T>;
  const fresh: Kept = { writes: writesSoFar(), value: read() };
  kept.set(key, fresh);
  fresh.value.catch(() => {
    if (kept.peek(key) === fresh) kept.delete(key);
  });
  return fresh.value as Promise<T>;
}
