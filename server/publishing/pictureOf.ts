import { asToday } from "#core/marks/former";
import type { Scenario } from "#core/scenarios/scenario";
import { fromBars } from "#core/series/series";
import { Calendar } from "#core/time/calendar";
import { writtenOf } from "#core/written/former";
import type { Written } from "#core/written/written";
import { axisRoom } from "../../chart/axisRoom.ts";
import { bounded } from "../../chart/bounds.ts";
import { fitPrices, includePrices } from "../../chart/candles.ts";
import { ahead } from "../../chart/compose.ts";
import { drawMark, type Picture } from "../../chart/picture.ts";
import { buildPyramid } from "../../chart/pyramid.ts";
import { makeScale, plotOf, type View } from "../../chart/scale.ts";
import { drawnScenario, scenarioPrices } from "../../chart/scenario.ts";
import { readTimeframe } from "../bars/timeframes.ts";
import type { SaidMark } from "../desk/lives.ts";
import { LAYOUTS, SHOWN } from "#core/edition/layouts";
import { frozenLayer } from "./studies.ts";
import type { Section } from "./section.ts";

const FUTURE_SHARE = 0.22;

/** What a picture is drawn from. */
export type Drawable = Omit<Section, "scenarios"> & { scenarios: readonly (Written | Scenario)[] };

/**
 * The picture of a section and the part of it to show: its last bars and a fifth of future. Which marks it draws is
 * decided here, not by what the charts of a desk show: editions that were frozen are drawn as they were.
 */
export function pictureOf(section: Drawable, bars = SHOWN): { picture: Picture; view: View } {
  const series = fromBars(section.bars);
  const calendar = new Calendar(section.calendar);
  const timeframe = readTimeframe(section.rung);
  const pyramid = buildPyramid(series);
  const shown = Math.min(bars, series.length);
  const room = Math.round((shown * FUTURE_SHARE) / (1 - FUTURE_SHARE));
  const from = series.length - shown - 0.5;
  const to = series.length - 0.5 + Math.max(6, room);
  const first = section.bars.at(-shown)?.time ?? 0;
  const drawn = section.scenarios.map((one) => drawnScenario(writtenOf(one)));
  return {
    picture: {
      pyramid,
      market: section.market,
      timeframe,
      calendar,
      future: ahead({ series, timeframe, calendar }, Math.max(6, room)),
      marks: section.marks
        .map(asToday)
        .filter(({ life, mark }) => !life.dead && Math.max(...mark.anchors.map(({ time }) => time)) >= first),
      scenarios: drawn,
      selected: [],
      unfinished: false,
      studies: frozenLayer(section.studies ?? [], series, section.market),
    },
    view: { from, to, ...includePrices(fitPrices(pyramid, from, to), drawn.flatMap(scenarioPrices)) },
  };
}

/** Marks of which something is seen in a section's whole picture. */
export function drawnMarks(section: Drawable): SaidMark[] {
  const { picture, view } = pictureOf(section);
  const { width, height } = LAYOUTS.wide;
  const scale = makeScale(view, plotOf(width, height, axisRoom(picture.pyramid, picture.market)));
  const isDrawn = (lived: SaidMark) => bounded(drawMark(lived, picture, scale), scale.plot).length > 0;
  return picture.marks.filter((lived) => isDrawn(lived as SaidMark)) as SaidMark[];
}
