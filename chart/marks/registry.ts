import { drawChannel } from "./channel.ts";
import { drawCount } from "./count.ts";
import type { Draw } from "./drawing.ts";
import { kindNamed } from "#core/marks/registry";
import { drawFittedLevel } from "./fittedLevel.ts";
import { drawGap } from "./gap.ts";
import { drawLevel } from "./level.ts";
import { drawNote } from "./note.ts";
import { drawPath } from "./path.ts";
import { drawPool } from "./pool.ts";
import { drawRetracement } from "./retracement.ts";
import { drawStructure } from "./structure.ts";
import { drawTrendLine } from "./trendLine.ts";
import { drawZone } from "./zone.ts";

const drawings: Record<string, Draw> = {
  level: drawLevel as unknown as Draw,
  fittedLevel: drawFittedLevel as unknown as Draw,
  trendLine: drawTrendLine as unknown as Draw,
  channel: drawChannel as unknown as Draw,
  path: drawPath as unknown as Draw,
  note: drawNote as unknown as Draw,
  structure: drawStructure as unknown as Draw,
  pool: drawPool as unknown as Draw,
  gap: drawGap as unknown as Draw,
  zone: drawZone as unknown as Draw,
  retracement: drawRetracement as unknown as Draw,
  count: drawCount as unknown as Draw,
};

/** How a kind of mark is drawn; a kind without a drawing draws nothing. */
export function drawingOf(kind: string): Draw {
  return drawings[kindNamed(kind)] ?? (() => []);
}
