import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useMemo, useSyncExternalStore } from "react";
import { atr } from "#core/studies/atr";
import { kindOf } from "#core/marks/registry";
import type { Anchor, Life, Mark, MarketFacts } from "#core/marks/kind";
import { countText, percentText, priceText } from "#core/marks/wording";
import type { Series } from "#core/series/series";
import { measure, measureText, pipText } from "../../../../chart/measure.ts";
import type { ReadAt } from "../../../canvas/crosshair.ts";
import type { ColumnLayer } from "../../../../chart/columns.ts";
import { dateText } from "../../../parts/times.ts";
import type { LinkedCursor } from "../../../canvas/linkedCursor.ts";
import { inHand, mayEndHere, type Placing } from "../marks/kinds.ts";

interface Props {
  cursor: LinkedCursor;
  placing: Placing | undefined;
  /** Points of the ruler: the first, then both. */
  ruler: readonly Anchor[] | undefined;
  /** The rule that a dragged mark breaks. */
  problem: string | undefined;
  market: MarketFacts;
  series: Series | undefined;
  future: readonly number[];
  marks: readonly { mark: Mark; life: Life }[];
  /** Columns that stand in place of the bars. */
  columns: ColumnLayer | undefined;
}

/**
 * The bar under the crosshair in figures; while something is placed, measured or dragged, what that needs to be told.
 */
export function Readout({ cursor, placing, ruler, problem, market, series, future, marks, columns }: Props) {
  const at = useSyncExternalStore(cursor.subscribe, cursor.get, () => undefined)?.read;
  const ranges = useMemo(() => (series ? atr(series) : undefined), [series]);
  const hint = placing
    ? hintOf(placing)
    : problem
      ? `\u00d7 ${problem}`
      : ruler && series
        ? rulerText(ruler, at, series, future, market)
        : undefined;
  return (
    <Box
      sx={{
        position: "absolute",
        inset: { xs: "0 auto auto 12px", md: "0 356px 0 12px" },
        // A finger has no place to rest on: what it would read is in the table.
        display: { xs: "none", md: "flex" },
        flexDirection: "column",
        justifyContent: "center",
        "& p": { lineHeight: 1.15, whiteSpace: "nowrap", overflow: "hidden", textOverflow: "ellipsis" },
      }}
    >
      <Typography variant="body2" role="status">
        {hint}
      </Typography>
      {!hint && at && (
        <>
          <Typography variant="caption" component="p">
            {columns ? columnText(at, columns, market) : barText(at, ranges?.[at.index], market)}
          </Typography>
          <Typography variant="caption" component="p" color="text.secondary">
            {nearestText(at.anchor.price, marks, market)}
          </Typography>
        </>
      )}
    </Box>
  );
}

/** Which way a column goes, its boxes, and when it began. */
function columnText({ index, bar }: ReadAt, { chart }: ColumnLayer, market: MarketFacts): string {
  const column = chart.columns[index];
  if (!column || !bar) return "";
  const { isRising, bottom, top } = column;
  const [low, high] = [bottom, top].map((box) => priceText(chart.priceOf(box), market));
  return [
    `${isRising ? "Rising" : "Falling"}, ${countText(top - bottom + 1, "box", "boxes")}`,
    `${low} to ${high}`,
    `began ${dateText(bar.time)}`,
  ].join("\u2003");
}

/** Open, high, low, close, the change on the close before, the range against the usual one. */
function barText({ bar, before }: ReadAt, range: number | undefined, market: MarketFacts): string {
  if (!bar) return "";
  const change = before === undefined ? undefined : bar.close - before;
  const height = bar.high - bar.low;
  return [
    `O ${priceText(bar.open, market)}`,
    `H ${priceText(bar.high, market)}`,
    `L ${priceText(bar.low, market)}`,
    `C ${priceText(bar.close, market)}`,
    ...(change === undefined || !before
      ? []
      : [`${change > 0 ? "+" : ""}${priceText(change, market)} (${percentText(change / Math.abs(before), 2)})`]),
    `range ${pipText(height / market.pip)} ` +
      `${market.pipName}${range && range > 0 ? `, ${(height / range).toFixed(1)} ATR` : ""}`,
  ].join("\u2003");
}

const NEAREST = 2;

/** The prices of live marks nearest above and below the crosshair, with their distance. */
function nearestText(price: number, marks: Props["marks"], market: MarketFacts): string {
  const bands = marks
    .filter(({ life }) => !life.dead)
    .flatMap(({ mark, life }) => kindOf(mark).prices(mark, life))
    .map(({ bottom, top, label }) => ({ label, away: price > top ? top - price : price < bottom ? bottom - price : 0 }))
    .sort((a, b) => Math.abs(a.away) - Math.abs(b.away));
  return bands
    .slice(0, NEAREST)
    .map(({ label, away }) =>
      away === 0
        ? `in ${label}`
        : `${pipText(Math.abs(away) / market.pip)} ${market.pipName} ${away > 0 ? "below" : "above"} ${label}`,
    )
    .join("\u2003");
}

function rulerText(
  ruler: readonly Anchor[],
  at: ReadAt | undefined,
  series: Series,
  future: readonly number[],
  market: MarketFacts,
): string {
  if (ruler.length === 0) return "Ruler: click where it begins. Escape leaves it.";
  const to = ruler.at(1) ?? at?.anchor;
  return to ? `${measureText(measure(ruler[0], to, series, future, market), market)}.` : "Ruler: click where it ends.";
}

function hintOf(placing: Placing): string {
  const end = mayEndHere(placing) ? "Escape ends it here." : "Escape leaves it.";
  return `${inHand(placing.kind)?.next(placing.anchors.length, placing.wave) ?? ""} ${end}`;
}
