import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { pipsText, priceText } from "#core/marks/wording";
import type { Around } from "#core/written/around";

/** How far price is from each step, what stands in its way, and what is left of the usual day. */
export function AroundLines({
  around: { triggers, room, left },
  market,
  atr,
}: {
  around: Around;
  market: MarketFacts;
  atr: number;
}) {
  const far = (distance: number) => {
    const pips = pipsText(distance, market);
    return atr > 0 ? `${pips}, ${(Math.abs(distance) / atr).toFixed(1)} ATR` : pips;
  };
  const lines = [
    ...triggers.map(
      ({ step, price, distance }) =>
        `Step ${step} at ${priceText(price, market)}: ${far(distance)} ${distance >= 0 ? "up" : "down"} from here.`,
    ),
    ...(room ? [`Room to ${room.name}: ${far(room.distance)}.`] : []),
    ...(left === undefined
      ? []
      : [left === 0 ? "Today has made its usual range." : `Left of today's usual range: ${far(left)}.`]),
  ];
  return (
    <>
      {lines.map((line) => (
        <Typography key={line} variant="body2" color="text.secondary">
          {line}
        </Typography>
      ))}
    </>
  );
}
