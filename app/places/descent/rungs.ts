/** The default set of rungs, high to low. */
export const RUNGS = ["P1Y", "P3M", "P1M", "P1W", "P1D", "PT4H", "PT1H", "PT15M", "PT5M", "PT1M"] as const;
