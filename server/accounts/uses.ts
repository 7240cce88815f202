import { SHOWN_TO_NOBODY } from "../database/connection.ts";
import { Session } from "../database/models.ts";
import { log } from "../log.ts";

/** How long uses are gathered before they are written down (ms). */
const GATHERED = 500;

const used = new Set<string>();
let waiting: NodeJS.Timeout | undefined;

/** Notes that a session was used. After a publication everybody comes at once: it is written down for all together. */
export function noteUse(session: string): void {
  used.add(session);
  waiting ??= setTimeout(() => void writeUses(), GATHERED).unref();
}

/** Writes down which sessions were used. Where the database is away it is noted again at their next use. */
export async function writeUses(): Promise<void> {
  clearTimeout(waiting);
  waiting = undefined;
  const id = [...used];
  used.clear();
  if (id.length === 0) return;
  try {
    await Session.update({ seenAt: Date.now() }, { where: { id }, ...SHOWN_TO_NOBODY });
  } catch (error) {
    log.warn({ error: String(error) }, "which sessions were used could not be written down");
  }
}
