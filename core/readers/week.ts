const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** The epoch was a Thursday: the first Sunday came three days later. A week of readers ends at 17:00 UTC. */
const FIRST = 3 * DAY + 17 * HOUR;

/** The latest Sunday, 17:00 UTC, that is not after an instant (ms since 1970). */
export const lastSunday = (now: number): number => FIRST + Math.floor((now - FIRST) / (7 * DAY)) * 7 * DAY;
