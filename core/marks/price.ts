/** Whether a number is a price anybody could mean: finite, and no larger than a million millions. */
export function isPrice(price: unknown): price is number {
  return typeof price === "number" && Math.abs(price) <= 1e12;
}
