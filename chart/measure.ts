import type { Anchor, MarketFacts } from "#core/marks/kind";
import { countText, percentText, plainNumber, priceText } from "#core/marks/wording";
import type { Series } from "#core/series/series";
import { indexOfTime } from "./picture.ts";

/** What lies between two points of a chart. */
export interface Measure {
  bars: number;
  /** Milliseconds. */
  time: number;
  /** In the quote unit, and as a share of the first price (NaN where that is zero). */
  move: number;
  share: number;
  /** In the unit distances are quoted in. */
  pips: number;
}

export function measure(
  from: Anchor,
  to: Anchor,
  series: Series,
  future: readonly number[],
  { pip }: Pick<MarketFacts, "pip">,
): Measure {
  const move = to.price - from.price;
  return {
    bars: indexOfTime(series, future, to.time) - indexOfTime(series, future, from.time),
    time: to.time - from.time,
    move,
    share: from.price === 0 ? NaN : move / Math.abs(from.price),
    pips: move / pip,
  };
}

const MINUTE = 60_000;

/** A length of time in its two largest units: "3 days 4 h", "35 min". */
export function spanText(span: number): string {
  const minutes = Math.round(Math.abs(span) / MINUTE);
  const [days, hours, rest] = [Math.floor(minutes / 1440), Math.floor(minutes / 60) % 24, minutes % 60];
  if (days >= 60) return countText(days, "day");
  if (days > 0) return `${countText(days, "day")}${hours > 0 ? ` ${hours} h` : ""}`;
  return hours > 0 ? `${hours} h${rest > 0 ? ` ${rest} min` : ""}` : `${rest} min`;
}

const signed = (text: string, value: number) => (value > 0 ? `+${text}` : text);

/** "12 bars, 16 days, +14.35, +3.30 %, +14.4 pt". */
export function measureText(
  { bars, time, move, share, pips }: Measure,
  market: Pick<MarketFacts, "decimals" | "pipName">,
): string {
  const parts = [
    countText(Math.abs(bars), "bar"),
    spanText(time),
    signed(priceText(move, market), move),
    ...(Number.isNaN(share) ? [] : [signed(percentText(share, 2), share)]),
    `${signed(pipText(pips), pips)} ${market.pipName}`,
  ];
  return parts.join(", ");
}

/** A distance in pips or points with one decimal at most. */
export function pipText(pips: number): string {
  return plainNumber(Math.round(pips * 10) / 10).replace("-", "\u2212");
}
