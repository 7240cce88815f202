import { ClockRow } from "./database/models.ts";

export interface MarketClock {
  now: number;
  speed: number;
  /** Whether a simulated feed moves it; otherwise it is the wall clock. */
  simulated: boolean;
}

/** The market's clock: in the demo a row that the feed moves, on a desk of one's own the wall clock. */
export async function readClock(): Promise<MarketClock> {
  const row = await ClockRow.findByPk(1, { raw: true });
  return row
    ? { now: row.now, speed: row.speed, simulated: true }
    : { now: Date.now(), speed: 1 / 60, simulated: false };
}
