declare const kind: unique symbol;

/** A moment, in milliseconds UTC. */
export type Instant = number & { readonly [kind]: "instant" };

/**
 * How a bar is named: an intraday bar by the instant it opened at, a bar of a day and longer by midnight UTC of its
 * trading date, Monday or first day. It says where a bar stands on its axis, never when anything was known.
 */
export type Label = number & { readonly [kind]: "label" };

export const asInstant = (time: number) => time as Instant;
export const asLabel = (time: number) => time as Label;

/** Before everything, and after it. */
export const EVER = asInstant(-Infinity);
export const NEVER = asInstant(Infinity);
