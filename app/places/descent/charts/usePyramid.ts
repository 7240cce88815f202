import { useState } from "react";
import { buildPyramid, goesOn, growPyramid, type Pyramid } from "../../../../chart/pyramid.ts";
import type { LoadedBars } from "./useBars.ts";

interface Built {
  bars: LoadedBars;
  pyramid: Pyramid;
}

/** The pyramid of what a chart has loaded; where bars were only added to it, it grows from its tail. */
export function usePyramid(bars: LoadedBars | undefined): Pyramid | undefined {
  const [built, setBuilt] = useState<Built>();
  if (!bars) return undefined;
  if (built?.bars === bars) return built.pyramid;
  const isOf = built && built.bars.subject === bars.subject && built.bars.history === bars.history;
  const grows = isOf && built.bars.start === bars.start && goesOn(bars.series, built.bars.series);
  const pyramid = grows ? growPyramid(built.pyramid, bars.series) : buildPyramid(bars.series);
  setBuilt({ bars, pyramid });
  return pyramid;
}
