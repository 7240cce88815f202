import { LAYOUTS, type PictureLayout } from "#core/edition/layouts";
import type { Plot, View } from "../../chart/scale.ts";
import { readScaleText } from "../../chart/scaleText.ts";
import { notFound } from "../failure.ts";
import { chartsOf } from "../publishing/content.ts";
import { artefact, pictureFor } from "../publishing/pictures.ts";
import type { FrozenSection } from "../publishing/section.ts";
import type { Sight } from "../accounts/plans.ts";
import { seeEdition } from "./seen.ts";

/** What a picture's places stand for, so that it can be pointed at. */
export interface Pointing {
  size: { width: number; height: number };
  plot: Plot;
  view: View;
  /** Index of the first of the bars. */
  first: number;
  /** Time (ms), open, high, low, close of the bars in view. */
  bars: [time: number, open: number, high: number, low: number, close: number][];
}

/** Where the scale stands in a drawing: in its first tag. */
const SCALE = /^<svg[^>]* data-scale="([^"]*)"/;

/**
 * What somebody who is shown a picture of a chart may read off it. The drawing itself says its scale; those of before
 * they did cannot be pointed at.
 */
export async function pointingAt(
  { number, section: index, layout }: { number: string; section: number; layout: PictureLayout },
  sight: Sight,
): Promise<Pointing> {
  const { edition, content } = await seeEdition(number, sight);
  const section = chartsOf(content).at(index) as Partial<FrozenSection> | undefined;
  const stored = await pictureFor(edition.number, index, layout, sight.parts);
  // Bars are shown with the pictures drawn from them.
  if (!stored || !section?.bars) throw notFound("picture");
  const [, text = ""] = SCALE.exec((await artefact(stored.svgSha256)).toString("utf8", 0, 1_000)) ?? [];
  const scale = readScaleText(text);
  if (!scale) throw notFound("scale of this picture");
  const first = Math.max(0, Math.ceil(scale.view.from));
  const { width, height } = LAYOUTS[layout];
  return {
    ...{ size: { width, height }, ...scale, first },
    bars: section.bars.slice(first).map(({ time, open, high, low, close }) => [time, open, high, low, close]),
  };
}
