import type { Transaction } from "sequelize";
import type { Watcher } from "#core/observe/watcher";
import type { Market, WatcherRow } from "../database/models.ts";

/** A row with the watcher it is of, and how what it said is kept. */
export interface Watched<State = unknown, Event = unknown> {
  row: WatcherRow;
  watcher: Watcher<State, Event>;
  /** Keeps what was said, within the transaction that stores the bars. Returns how much was kept. */
  keep(events: readonly Event[], transaction: Transaction): Promise<number>;
}

/**
 * One kind of watcher: what a row of it needs to be shown bars. A row whose subject has been taken away comes back as
 * `gone`; one that cannot be followed for now, as `unknown`, waits where it stands.
 */
export interface Kind {
  prepare(
    market: Market,
    rows: readonly WatcherRow[],
    transaction: Transaction,
  ): Promise<(Watched | "gone" | "unknown")[]>;
}
