/** The market that is imported into while the process is killed, and the bars of each file. */
export const TRIAL_MARKET = "trial";
export const ROWS = 1000;
