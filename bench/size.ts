/** In small: every bench and trial is run so by the tests, that none of them rots. What it prints then says nothing. */
export const SHORT = globalThis.process?.env.COMPASS_SHORT === "yes";

/** The size something is measured at, or how little of it is enough to see that it still runs. */
export const sized = (whole: number, few: number): number => (SHORT ? few : whole);
