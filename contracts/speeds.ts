/** Speeds of the simulated feed: market minutes in a second of the wall clock. */
export const SPEEDS = [0, 1, 10, 60] as const;
