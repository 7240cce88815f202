import type { Anchor } from "#core/marks/kind";
import { isPrice } from "#core/marks/price";
import { isInstant } from "#core/time/dates";

export type CopyBy = "ratio" | "difference";
export const COPY_WAYS: readonly CopyBy[] = ["ratio", "difference"];

/** Where a mark was taken over from, and the relation of the two markets its prices were carried by. */
export interface CopyOf {
  market: string;
  /** Id of the mark over there. */
  mark: string;
  by: CopyBy;
  /** Instant at which the relation was taken. */
  at: number;
  /** Price here divided by the price there, or the price here less the one there, at that instant. */
  value: number;
}

/** The relation of two prices of the same instant. Throws RangeError for a ratio of prices that are not above zero. */
export function relationOf(here: number, there: number, by: CopyBy): number {
  if (by === "difference") return here - there;
  if (here <= 0 || there <= 0) throw new RangeError("A ratio needs prices above zero on both markets.");
  return here / there;
}

/** The price here that a price there is worth by a relation. */
export function equivalentPrice(there: number, { by, value }: Pick<CopyOf, "by" | "value">): number {
  return by === "ratio" ? there * value : there + value;
}

/** Anchors carried over, at the same instants. */
export function equivalentAnchors(anchors: readonly Anchor[], relation: Pick<CopyOf, "by" | "value">): Anchor[] {
  return anchors.map(({ time, price }) => ({ time, price: equivalentPrice(price, relation) }));
}

/**
 * How far the copy's price would lie from where it was put, were it carried over today: in price units, positive when
 * it would lie higher. `here` and `there` are prices of one later instant.
 */
export function driftOf(price: number, copied: Pick<CopyOf, "by" | "value">, here: number, there: number): number {
  const now = relationOf(here, there, copied.by);
  return copied.by === "ratio" ? price * (now / copied.value - 1) : now - copied.value;
}

/** A copy's origin from untrusted data; `undefined` if it is none. */
export function readCopyOf(raw: unknown): CopyOf | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const { market, mark, by, at, value } = raw as Record<string, unknown>;
  const named = typeof market === "string" && market.length <= 60 && typeof mark === "string" && mark.length <= 36;
  if (!named || !COPY_WAYS.includes(by as CopyBy) || !isInstant(at) || !isPrice(value)) return undefined;
  if (by === "ratio" && value <= 0) return undefined;
  return { market, mark, by: by as CopyBy, at, value };
}
