import type { MarketFacts } from "#core/marks/kind";

/** A price with the market's decimals and a true minus sign. */
export function priceText(price: number, market: Pick<MarketFacts, "decimals">): string {
  return price.toFixed(market.decimals).replace("-", "\u2212");
}

/** 0.618 -> "61.8 %". */
export function percentText(share: number, decimals = 1): string {
  return `${(share * 100).toFixed(decimals).replace("-", "\u2212")} %`;
}

/** "1 touch", "2 touches". */
export function countText(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}

/** A rung's name as practitioners write it: "Day", "Week", "4 h", "15 min", "3 months". */
export function rungText(rung: string): string {
  const match = /^P(T?)(\d+)([MHDWY])$/.exec(rung);
  if (!match) return rung;
  const count = Number(match[2]);
  if (rung === "P3M") return "Quarter";
  const unit = { TM: "min", TH: "h", D: "Day", W: "Week", M: "Month", Y: "Year" }[match[1] + match[3]] ?? "";
  if (match[1]) return `${count} ${unit}`;
  return count === 1 ? unit : `${count} ${unit.toLowerCase()}s`;
}
