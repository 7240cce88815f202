import { drawChannel } from "./channel.ts";
import { drawCount } from "./count.ts";
import type { Draw } from "./drawing.ts";
import { kindNamed, type DrawnKind } from "#core/marks/registry";
import { drawAnchoredAverage } from "./measuring/anchoredAverage.ts";
import { drawArcs } from "./measuring/arcs.ts";
import { drawCycle } from "./measuring/cycle.ts";
import { drawDivergence } from "./measuring/divergence.ts";
import { drawRegressionChannel } from "./measuring/regressionChannel.ts";
import { drawSpeedLines } from "./measuring/speedLines.ts";
import { drawSwingChannel } from "./measuring/swingChannel.ts";
import { drawTargets } from "./measuring/targets.ts";
import { drawTimeRatios } from "./measuring/timeRatios.ts";
import { drawFittedLevel } from "./fittedLevel.ts";
import { drawGap } from "./gap.ts";
import { drawLevel } from "./level.ts";
import { drawNote } from "./note.ts";
import { drawPattern } from "./pattern.ts";
import { drawPath } from "./path.ts";
import { drawPool } from "./pool.ts";
import { drawRetracement } from "./retracement.ts";
import { drawStructure } from "./structure.ts";
import { drawTrendLine } from "./trendLine.ts";
import { drawZone } from "./zone.ts";

/** A kind that is drawn and has no drawing here does not compile. */
const DRAWINGS = {
  level: drawLevel,
  fittedLevel: drawFittedLevel,
  trendLine: drawTrendLine,
  channel: drawChannel,
  swingChannel: drawSwingChannel,
  regressionChannel: drawRegressionChannel,
  structure: drawStructure,
  pool: drawPool,
  gap: drawGap,
  zone: drawZone,
  divergence: drawDivergence,
  retracement: drawRetracement,
  projection: drawTargets,
  extension: drawTargets,
  measuredMove: drawTargets,
  timeRatios: drawTimeRatios,
  speedLines: drawSpeedLines,
  arcs: drawArcs,
  cycle: drawCycle,
  anchoredAverage: drawAnchoredAverage,
  count: drawCount,
  pattern: drawPattern,
  path: drawPath,
  note: drawNote,
} satisfies Record<DrawnKind, unknown>;

const drawings = new Map(Object.entries(DRAWINGS) as unknown as [string, Draw][]);

/** How a kind of mark is drawn; a silent one, and what is of no kind there is, draws nothing. */
export function drawingOf(kind: string): Draw {
  return drawings.get(kindNamed(kind)) ?? (() => []);
}
