import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import Typography from "@mui/material/Typography";
import { answerText, atPlaces, atWaveEnds, candleTitle, type WaveEnd } from "#core/candles/answered";
import { roomAt, type Area } from "#core/areas/areas";
import type { RungReading } from "#core/finding/reading";
import type { MarketFacts } from "#core/marks/kind";
import { bandText, countText, percentText, priceText, rungText } from "#core/marks/wording";
import { RANGE_BASES, rangeOfTrend, standingIn, type RangeBasis } from "#core/structure/range";
import { dateText } from "../../../parts/times.ts";
import { ReasonLines } from "./ReasonLines.tsx";

interface Props {
  reading: RungReading;
  /** The day's reading, for yesterday's range. */
  day: RungReading | undefined;
  market: MarketFacts;
  price: number;
  areas: readonly Area[];
  ends: readonly WaveEnd[];
  basis: RangeBasis;
  onBasis(basis: RangeBasis): void;
}

const BASIS_NAMES: Record<RangeBasis, string> = { shift: "last shift", yesterday: "yesterday", leg: "last leg" };

/** Where a rung stands, in three lines: its trend and what shifts it, cheap or dear in its range, room to the areas. */
export function ReadingLines({ reading, day, market, price, areas, ends, basis, onBasis }: Props) {
  const { trend, rung, atr, legs } = reading;
  const range = basis === "shift" ? trend && rangeOfTrend(trend) : basis === "yesterday" ? day?.lastBar : legs.at(-1);
  const stands = range && standingIn(range, price);
  const { above, below, inside } = roomAt(areas, price);
  const far = (distance: number) => `${priceText(Math.abs(distance) / atr, { decimals: 1 })} ATR`;
  return (
    <Box aria-label="Reading" component="section" sx={{ mt: 0.5 }}>
      {trend ? (
        <Typography variant="body2">
          Structure {trend.way} since {dateText(trend.since)}; a {rungText(rung).toLowerCase()} close{" "}
          {trend.way === "up" ? "below" : "above"} <strong>{priceText(trend.line.price, market)}</strong> shifts it.
        </Typography>
      ) : (
        <Typography variant="body2" color="text.secondary">
          No swing of this rung was broken yet: it has no trend.
        </Typography>
      )}
      <Box component="details">
        <Typography component="summary" variant="body2" sx={{ cursor: "pointer", minHeight: 24 }}>
          The machine reads it {reading.bearing.direction}, by {countText(reading.bearing.reasons.length, "reason")}
        </Typography>
        <ReasonLines bearing={reading.bearing} market={market} weights />
      </Box>
      <LegLine legs={legs} />
      <Box sx={{ display: "flex", alignItems: "baseline", columnGap: 0.75, flexWrap: "wrap" }}>
        <Typography variant="body2">
          {range && stands ? (
            <>
              {`${percentText(stands.share, 0)} of ${bandText(range, market)}: `}
              <strong>{placeText(stands.place, stands.share)}</strong>
            </>
          ) : (
            "No range"
          )}
        </Typography>
        <Select
          variant="standard"
          disableUnderline
          value={basis}
          onChange={(event) => onBasis(event.target.value)}
          inputProps={{ "aria-label": "Range taken from" }}
          sx={{ fontSize: "0.8rem", color: "text.secondary" }}
        >
          {RANGE_BASES.map((one) => (
            <MenuItem key={one} value={one}>
              {BASIS_NAMES[one]}
            </MenuItem>
          ))}
        </Select>
      </Box>
      {areas.length > 0 && atr > 0 && (
        <Typography variant="body2">
          {inside ? "In an area. " : ""}
          {above ? `Room up ${far(above.bottom - price)} to ${priceText(above.bottom, market)}` : "No area above"};{" "}
          {below ? `down ${far(price - below.top)} to ${priceText(below.top, market)}` : "none below"}.
        </Typography>
      )}
      {atPlaces(reading.candles, areas)
        .slice(0, MOST_CANDLES)
        .map(({ candle, area }) => (
          <Typography key={candle.time} variant="body2">
            {candleTitle(candle)} at {bandText(area, market)}, {dateText(candle.time)}: {answerText(candle)}.
          </Typography>
        ))}
      {atWaveEnds(reading.candles, ends)
        .slice(0, MOST_CANDLES)
        .map(({ candle, end }) => (
          <Typography key={candle.time} variant="body2">
            {candleTitle(candle)} at the end of wave {end.label}, {priceText(end.price, market)},{" "}
            {dateText(candle.time)}: {answerText(candle)}.
          </Typography>
        ))}
    </Box>
  );
}

/** Candles at areas, and at ends of waves, that are told at once. */
const MOST_CANDLES = 2;

/**
 * The last leg against the one before it: a slow, shallow pullback is healthy, a fast and deep one a warning (common
 * practice, no source).
 */
function LegLine({ legs }: Pick<Props["reading"], "legs">) {
  const [impulse, pullback] = legs.slice(-2);
  if (!pullback || pullback.retraced === undefined || !(impulse.speed > 0)) return null;
  const pace = pullback.speed / impulse.speed;
  const deep = pullback.retraced;
  const word =
    deep > 1
      ? "it passed where that began"
      : deep > 0.618 && pace > 1
        ? "fast and deep, a warning"
        : deep <= 0.5 && pace < 1
          ? "slow and shallow, a healthy pullback"
          : "";
  return (
    <Typography variant="body2">
      The last leg {pullback.direction} gave back {percentText(deep, 0)} at {priceText(pace, { decimals: 1 })} times the
      pace{word && `: ${word}`}.
    </Typography>
  );
}

function placeText(place: "discount" | "equilibrium" | "premium", share: number): string {
  if (share < 0) return "below its range";
  return share > 1 ? "above its range" : place;
}
