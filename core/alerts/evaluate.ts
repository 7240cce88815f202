import type { AlertState, AlertTerms, Firing, PlaceState } from "#core/alerts/alert";
import type { BandsAt, NamedBand } from "#core/alerts/place";
import { bandText } from "#core/alerts/say";
import type { MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";
import type { Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { candleAt } from "#core/structure/candles";
import { StructureDetector } from "#core/structure/structure";
import { SwingDetector } from "#core/structure/swingDetector";

/** Closed bars and the instant each of them was over. */
export interface ClosedBars {
  series: Series;
  closeOf(time: number): number;
}

export interface AlertMaterial {
  /** The finest bars there are. */
  fine: ClosedBars;
  /**
   * Those of the alert's rung, with enough before them to know the structure; none for alerts that wait for a price.
   */
  rung: ClosedBars | undefined;
  bandsAt: BandsAt;
  market: MarketFacts;
  /** Bars on each side of a swing. */
  k: number;
}

/** The instants an alert is shown: bars that were over after `told`, up to and including `until`. */
export interface Span {
  told: number;
  until: number;
}

/**
 * Shows an alert the bars it has not seen yet. The same bars shown at once or one by one fire the same events; a bar
 * that was over by `told` is never shown again, whatever is stored in its place later. O(bars shown), for structure
 * O(bars of the rung).
 */
export function evaluateAlert(
  terms: AlertTerms,
  state: AlertState,
  material: AlertMaterial,
  span: Span,
): { firings: Firing[]; state: AlertState } {
  switch (terms.on) {
    case "reach":
      return reached(terms.at.leave, state, material, span);
    case "beyond":
      return beyond(terms.rung, state, material, span);
    case "candle":
      return { firings: candles(terms, material, span), state };
    case "shift":
      return { firings: shifts(terms, material, span), state };
    case "close":
      return { firings: closes(terms.rung, material, span), state };
  }
}

function fresh({ series, closeOf }: ClosedBars, { told, until }: Span): { i: number; at: number }[] {
  const out: { i: number; at: number }[] = [];
  // From the newest back: what was shown before is not looked through again.
  for (let i = series.length - 1; i >= 0; i--) {
    const at = closeOf(series.time[i]);
    if (at <= told) break;
    if (at <= until) out.push({ i, at });
  }
  return out.reverse();
}

const sideOf = (price: number, { bottom, top }: NamedBand) => (price > top ? 1 : price < bottom ? -1 : 0);

/**
 * Arrivals of wicks: a bar that meets the band, or opens beyond it on the other side, once price has been gone by
 * `leave` since the last one.
 */
function reached(
  leave: number,
  before: AlertState,
  { fine, bandsAt, market }: AlertMaterial,
  span: Span,
): { firings: Firing[]; state: AlertState } {
  const firings: Firing[] = [];
  const state = before.map((one): PlaceState => ({ ...one }));
  const { high, low, close, time } = fine.series;
  for (const { i, at } of fresh(fine, span))
    bandsAt(time[i]).forEach((band, n) => {
      const one = (state[n] ??= { side: sideOf(close[Math.max(0, i - 1)], band), armed: true });
      const side = low[i] > band.top ? 1 : high[i] < band.bottom ? -1 : 0;
      const jumped = side !== 0 && one.side !== 0 && side !== one.side;
      if ((side === 0 || jumped) && one.armed) {
        firings.push({
          event: `reach ${n} ${at}`,
          at,
          says: `${jumped ? "Jumped across" : "Reached"} ${band.name} ${bandText(band, market)}.`,
        });
        one.armed = false;
      }
      if (side !== 0 && Math.max(low[i] - band.top, band.bottom - high[i]) >= leave) one.armed = true;
      const now = sideOf(close[i], band);
      if (now !== 0) one.side = now;
    });
  return { firings, state };
}

/** Closes on the other side of a band than the last one that was outside it. */
function beyond(
  rung: string,
  before: AlertState,
  { rung: bars, bandsAt, market }: AlertMaterial,
  span: Span,
): { firings: Firing[]; state: AlertState } {
  const firings: Firing[] = [];
  const state = before.map((one): PlaceState => ({ ...one }));
  if (!bars) return { firings, state };
  const { close, time } = bars.series;
  for (const { i, at } of fresh(bars, span))
    bandsAt(time[i]).forEach((band, n) => {
      const one = (state[n] ??= { side: sideOf(close[Math.max(0, i - 1)], band), armed: true });
      const side = sideOf(close[i], band);
      if (side === 0 || side === one.side) return;
      if (one.side !== 0)
        firings.push({
          event: `beyond ${n} ${at}`,
          at,
          says: `${rungText(rung)} closed ${side > 0 ? "above" : "below"} ${band.name} ${bandText(band, market)}, at ${priceText(close[i], market)}.`,
        });
      one.side = side;
    });
  return { firings, state };
}

function candles(
  { rung, candle }: Extract<AlertTerms, { on: "candle" }>,
  { rung: bars, bandsAt, market }: AlertMaterial,
  span: Span,
): Firing[] {
  if (!bars) return [];
  const { series } = bars;
  return fresh(bars, span).flatMap(({ i, at }) => {
    const is = candleAt(series, i);
    if (!is || (candle !== "either" && !is.startsWith(candle))) return [];
    const band = bandsAt(series.time[i]).find(({ bottom, top }) => series.low[i] <= top && series.high[i] >= bottom);
    return band
      ? [
          {
            event: `candle ${at}`,
            at,
            says: `${is[0].toUpperCase()}${is.slice(1)} candle on ${rungText(rung)} at ${band.name} ${bandText(band, market)}.`,
          },
        ]
      : [];
  });
}

function shifts(
  { rung, direction }: Extract<AlertTerms, { on: "shift" }>,
  { rung: bars, market, k }: AlertMaterial,
  span: Span,
): Firing[] {
  if (!bars || fresh(bars, span).length === 0) return [];
  const track = new Track(bars.series, market.tick);
  const swings = new SwingDetector(track, { k, ties: "last" });
  const structure = new StructureDetector(track, swings, k);
  run(track, [swings, structure]);
  return structure.events.flatMap((event) => {
    const at = bars.closeOf(track.time[event.at]);
    const counts =
      event.event === "shift" &&
      (direction === "either" || direction === event.direction) &&
      at > span.told &&
      at <= span.until;
    return counts
      ? [
          {
            event: `shift ${event.direction} ${at}`,
            at,
            says: `Structure shifted ${event.direction} on ${rungText(rung)}: closed beyond ${priceText(event.price, market)}.`,
          },
        ]
      : [];
  });
}

function closes(rung: string, { rung: bars, market }: AlertMaterial, span: Span): Firing[] {
  if (!bars) return [];
  return fresh(bars, span).map(({ i, at }) => ({
    event: `close ${at}`,
    at,
    says: `${rungText(rung)} closed at ${priceText(bars.series.close[i], market)}.`,
  }));
}
