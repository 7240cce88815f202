/** Pigments a masthead can be printed in; each is read on paper and by lamp light. */
export const MASTHEAD_PIGMENTS = ["ink", "carmine", "indigo", "verdigris", "plum", "umber"] as const;

/** What stands at the head of everything readers see: whose desk it is, and in which pigment. */
export interface Masthead {
  name: string;
  pigment: (typeof MASTHEAD_PIGMENTS)[number];
}

export const MASTHEAD: Masthead = { name: "Even Compass", pigment: "ink" };
