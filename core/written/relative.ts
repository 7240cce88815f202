import { isLine } from "#core/conditions/price";
import { isBind, isFollowed, type WrittenTerms } from "#core/written/written";

/** Fields of terms that hold a price, and those that hold two. */
const PRICE = /(^|\.)(price|stop|wrong)$/;
const BAND = /(^|\.)(band|inside|at)$/;
const DISTANCE = /(^|\.)by$/;

/** Where price stands, and how far it usually goes: ATR(14) of the rung. */
export interface Standpoint {
  close: number;
  atr: number;
}

/** Terms whose prices are distances from the close, in ATR: a sentence to be kept for other markets and days. */
export function relativeTerms(terms: WrittenTerms, { close, atr }: Standpoint): WrittenTerms {
  return mapPrices(
    terms,
    "",
    (price) => (price - close) / atr,
    (distance) => distance / atr,
  ) as WrittenTerms;
}

/** Terms that were kept, put to where price stands now; `onGrid` rounds a price to the market's grid. */
export function absoluteTerms(
  terms: WrittenTerms,
  { close, atr }: Standpoint,
  onGrid: (price: number) => number,
): WrittenTerms {
  return mapPrices(
    terms,
    "",
    (price) => onGrid(close + price * atr),
    (distance) => onGrid(distance * atr),
  ) as WrittenTerms;
}

type Map = (value: number) => number;

/** What followed a mark, or ran along a line, is a price like any other: the next market has neither. */
function mapPrices(value: unknown, path: string, price: Map, distance: Map): unknown {
  if (isFollowed(value)) return mapPrices(value.value, path, price, distance);
  if (typeof value === "number") return PRICE.test(path) ? price(value) : DISTANCE.test(path) ? distance(value) : value;
  if (Array.isArray(value))
    return BAND.test(path) && value.every((one) => typeof one === "number")
      ? value.map(price)
      : value.map((one, i) => mapPrices(one, `${path}[${i}]`, price, distance));
  if (typeof value !== "object" || value === null || isBind(value as never)) return value;
  if (isLine(value as never))
    return mapPrices((value as { line: { price: number }[] }).line[1].price, path, price, distance);
  return Object.fromEntries(
    Object.entries(value).map(([name, one]) => [
      name,
      mapPrices(one, path === "" ? name : `${path}.${name}`, price, distance),
    ]),
  );
}
