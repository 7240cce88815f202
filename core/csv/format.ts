/** Names our own JSON of bars. */
export const BAR_FORMAT = "even-compass-bars-1";
