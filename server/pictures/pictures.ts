import { axisRoom } from "../../chart/axisRoom.ts";
import { layOut, type Picture } from "../../chart/picture.ts";
import { makeScale, plotOf, type View } from "../../chart/scale.ts";
import { runTask } from "../pool/pool.ts";
import type { DrawnPicture, Drawing, PictureSize } from "../tasks/draw.ts";

export type { DrawnPicture, Drawing, PictureSize } from "../tasks/draw.ts";

/** A picture as SVG text. Laid out here, drawn in a process that may fail or be ended. */
export function pictureSvg(picture: Picture, view: View, size: PictureSize, title: string): Promise<string> {
  return runTask("drawSvg", drawingOf(picture, view, size, title));
}

/** One as SVG and as PNG. */
export async function drawPicture(
  picture: Picture,
  view: View,
  size: PictureSize,
  title: string,
): Promise<DrawnPicture> {
  const [drawn] = await drawPictures([drawingOf(picture, view, size, title)]);
  return drawn;
}

/** Several as SVG and as PNG, drawn one after the other in one process. */
export function drawPictures(drawings: readonly Drawing[]): Promise<DrawnPicture[]> {
  return runTask("drawBoth", [...drawings]);
}

/** A picture laid out. */
export function drawingOf(picture: Picture, view: View, size: PictureSize, title: string): Drawing {
  const room = axisRoom(picture.pyramid, picture.market);
  const below = picture.studies?.heights(size.height) ?? [];
  const layout = layOut(picture, makeScale(view, plotOf(size.width, size.height, room, below)));
  return { layout, view, size, room, below, decimals: picture.market.decimals, title };
}
