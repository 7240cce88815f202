import { setTimeout as pause } from "node:timers/promises";

/** Longer than what is hidden takes (ms). */
const LASTS = 150;

/** Does something and is done no sooner than after a while: how long it took tells nobody what there was to do. */
export async function evenly<T>(work: () => Promise<T>, lasts = LASTS): Promise<T> {
  const waited = pause(lasts);
  const done = await work();
  await waited;
  return done;
}
