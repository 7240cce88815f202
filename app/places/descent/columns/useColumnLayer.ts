import { useMemo } from "react";
import type { ColumnRules } from "#core/columns/columns";
import type { MarketFacts } from "#core/marks/kind";
import { columnLayerOf, type ColumnLayer } from "../../../../chart/columns.ts";
import { buildPyramid, type Pyramid } from "../../../../chart/pyramid.ts";
import type { LoadedBars } from "../charts/useBars.ts";

/** Columns in place of a chart's bars. */
export interface ColumnView {
  layer: ColumnLayer;
  pyramid: Pyramid;
}

/** The loaded bars of a chart as columns; why there are none, where they cannot be made. */
export function useColumnLayer(
  rules: ColumnRules | undefined,
  bars: LoadedBars | undefined,
  { tick }: Pick<MarketFacts, "tick">,
): ColumnView | string | undefined {
  return useMemo(() => {
    if (!rules || !bars || bars.series.length === 0) return undefined;
    try {
      const { layer, series } = columnLayerOf(bars.series, rules, tick);
      if (series.length === 0) return "These bars make no column yet: choose smaller boxes.";
      return { layer, pyramid: buildPyramid(series) };
    } catch (error) {
      if (error instanceof RangeError) return error.message;
      throw error;
    }
  }, [rules, bars, tick]);
}
