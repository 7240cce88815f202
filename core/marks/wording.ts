import type { MarketFacts } from "#core/marks/kind";
import { pipDecimals } from "#core/series/tick";

/** A price with the market's decimals and a true minus sign. */
export function priceText(price: number, market: Pick<MarketFacts, "decimals">): string {
  return price.toFixed(market.decimals).replace("-", "\u2212");
}

/** A number with its sign, "+1.4" or a true minus. */
export function signedText(value: number, decimals = 1): string {
  return `${value >= 0 ? "+" : ""}${priceText(value, { decimals })}`;
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

/** "4 h candle", "day candle"; "candle" where no rung is named. */
export function rungWord(rung: string | undefined): string {
  return rung === undefined ? "candle" : `${rungText(rung).toLowerCase()} candle`;
}

/** "1.2010", "1.2010 to 1.2050". */
export function bandText(band: { bottom: number; top: number }, market: Pick<MarketFacts, "decimals">): string {
  const [bottom, top] = [priceText(band.bottom, market), priceText(band.top, market)];
  return bottom === top ? bottom : `${bottom} to ${top}`;
}

/** A number in plain decimals, without an exponent or needless zeros: 1e-8 is "0.00000001". */
export function plainNumber(value: number): string {
  return value.toFixed(10).replace(/\.?0+$/, "");
}

/** Bytes as people read them: "19.5 MB". */
export function sizeText(bytes: number): string {
  return bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
}

/** A distance in the market's own unit, to the tick: "14.85 pt". */
export const pipsText = (distance: number, market: Pick<MarketFacts, "tick" | "pip" | "pipName">): string =>
  `${priceText(Math.abs(distance) / market.pip, { decimals: pipDecimals(market) })} ${market.pipName}`;
