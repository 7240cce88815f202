/** What the demo's desk says once its board is whole. */
export const EVERY_MARKET_READ = "Every market is read.";
