import { axisRoom } from "../../chart/axisRoom.ts";
import { layOut, type Picture } from "../../chart/picture.ts";
import { makeScale, plotOf, type View } from "../../chart/scale.ts";
import { runTask } from "../pool/pool.ts";
import type { DrawnPicture, Drawing, PictureSize } from "../tasks/draw.ts";

export type { DrawnPicture, PictureSize } from "../tasks/draw.ts";

/** A picture as SVG text. Laid out here, drawn in a process that may fail or be ended. */
export function pictureSvg(picture: Picture, view: View, size: PictureSize, title: string): Promise<string> {
  return runTask("drawSvg", drawingOf(picture, view, size, title));
}

/** The same as SVG and as PNG. */
export function drawPicture(picture: Picture, view: View, size: PictureSize, title: string): Promise<DrawnPicture> {
  return runTask("drawBoth", drawingOf(picture, view, size, title));
}

function drawingOf(picture: Picture, view: View, size: PictureSize, title: string): Drawing {
  const room = axisRoom(picture.pyramid, picture.market);
  const layout = layOut(picture, makeScale(view, plotOf(size.width, size.height, room)));
  return { layout, view, size, room, decimals: picture.market.decimals, title };
}
