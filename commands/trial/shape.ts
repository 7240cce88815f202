/** The market that is imported into while the process is killed, and the bars of each file. */
export const TRIAL_MARKET = "trial";
export const ROWS = 1000;

/** The market whose bars are restated and put back meanwhile: ten days of every hundred, from one price to another. */
export const RESTATED_MARKET = "restated";
export const PRICE = 10;
export const OTHER_PRICE = 20;
/** Days from this on are restated, and new ones added after the first file's end. */
export const OVERLAY = { from: 300, to: 1300 };
