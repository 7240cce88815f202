import type { AreaBand } from "#core/areas/areas";
import type { Life, Mark } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import type { StatusCode } from "#core/marks/status";
import { nominalLength, parseTimeframe } from "#core/time/timeframe";

/** How much of a live mark's worth its state leaves (definition our own); a state not named here all of it. */
const FRESHNESS: Partial<Record<StatusCode, number>> = {
  touched: 0.7,
  swept: 0.4,
  retested: 0.7,
  partlyFilled: 0.6,
  flipped: 0.6,
  spent: 0.2,
};

/**
 * The bands of live marks that are not hidden. Prices that end a statement speak for no area, nor do a count's own
 * targets, which have areas of their own; what measures speaks with its targets.
 */
export function bandsOfMarks(
  marks: readonly { mark: Mark; life: Life }[],
  atrOf: (rung: string) => number | undefined,
): AreaBand[] {
  return marks.flatMap(({ mark, life }): AreaBand[] => {
    const atr = atrOf(mark.rung);
    if (life.dead || mark.hidden || atr === undefined) return [];
    const length = nominalLength(parseTimeframe(mark.rung) ?? { count: 1, unit: "day" });
    const sources = mark.anchors.map(({ time }) => ({ from: time, to: time + length }));
    return kindOf(mark)
      .prices(mark, life)
      .filter(({ role }) => role !== "kill" && (role !== "target" || kindOf(mark).lines !== undefined))
      .map(({ bottom, top, label }) => ({
        bottom,
        top,
        rung: mark.rung,
        atr,
        kind: mark.kind,
        freshness: FRESHNESS[life.code ?? "none"] ?? 1,
        name: label,
        id: mark.id,
        sources,
      }));
  });
}
