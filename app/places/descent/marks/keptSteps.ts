import { createStore, del, entries, get, set, type UseStore } from "idb-keyval";
import type { Group, Step } from "./markStore.ts";

/** What a page keeps of one market in the browser, so that neither a reload nor a lost server takes it away. */
export interface Kept {
  /** Steps the server has not confirmed, and the version of each mark that they were made on. */
  queue: Step[];
  versions: Record<string, number>;
  undo: Group[];
  redo: Group[];
  savedAt: number;
}

export interface Keeper {
  load(): Promise<Kept | undefined>;
  save(kept: Kept): void;
}

/** What a tab could undo is forgotten after this long. */
const FORGOTTEN = 30 * 86_400_000;
const TAB = "compass-tab";

/** A name for this tab that a reload does not change. */
function tabName(): string {
  const known = sessionStorage.getItem(TAB);
  if (known) return known;
  const name = crypto.randomUUID();
  sessionStorage.setItem(TAB, name);
  return name;
}

/**
 * Keeps an analyst's steps on a market in the browser's database, each tab its own. A page also takes over what tabs
 * left that were closed before they could send it; the server knows a step by its id, so that none counts twice.
 * Where the browser keeps nothing, everything works but this.
 */
export function keptSteps(
  account: string,
  market: string,
  tab = tabName(),
  store: UseStore = createStore("even-compass", "desk"),
): Keeper {
  const prefix = `${account} ${market} `;
  const own = prefix + tab;
  let wanted: Kept | undefined;
  let writing = false;

  const write = async () => {
    if (writing) return;
    writing = true;
    while (wanted) {
      const kept = wanted;
      wanted = undefined;
      await set(own, kept, store).catch(() => undefined);
    }
    writing = false;
  };

  return {
    async load() {
      try {
        const mine = await get<Kept>(own, store);
        const left: Kept[] = [];
        for (const [key, kept] of await entries<string, Kept>(store)) {
          if (key === own) continue;
          if (key.startsWith(prefix) && kept.queue.length > 0) {
            left.push(kept);
            // What that tab can undo stays its own: it may be open still.
            await set(key, { ...kept, queue: [], versions: {} }, store);
          } else if (Date.now() - kept.savedAt > FORGOTTEN) await del(key, store);
        }
        if (!mine && left.length === 0) return undefined;
        const all = [...left, ...(mine ? [mine] : [])];
        const joined: Kept = {
          queue: all.flatMap(({ queue }) => queue),
          versions: Object.assign({}, ...all.map(({ versions }) => versions)) as Record<string, number>,
          undo: mine?.undo ?? [],
          redo: mine?.redo ?? [],
          savedAt: Date.now(),
        };
        if (left.length > 0) await set(own, joined, store);
        return joined;
      } catch {
        return undefined;
      }
    },
    save(kept) {
      wanted = kept;
      void write();
    },
  };
}
