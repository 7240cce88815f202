import { indexOfInstant, type Picture } from "../../chart/picture.ts";
import type { Scale } from "../../chart/scale.ts";
import { instantText, type ReadAt } from "./crosshair.ts";
import type { Point } from "./gestures.ts";
import type { Overlay } from "./scene.ts";

/** What stands over a chart just now. */
interface Over {
  picture: Picture;
  scale: Scale;
  /** The bar under the pointer, and the crosshair there. */
  read: { at: ReadAt; cross: NonNullable<Overlay["cross"]> } | undefined;
  /** The cursor of another chart. */
  linked: { instant: number; price?: number } | undefined;
  /** The instant that is held on every chart. */
  moment: number | undefined;
  box: { from: Point; to: Point } | undefined;
  handles: Point[];
  draft: Point[];
}

/** In pixels: crosshairs, the moment that is held, what studies read at the cursor, handles. */
export function overlayOf({ picture, scale, read, linked, moment, box, handles, draft }: Over): Overlay {
  const linkedAt = linked && indexOfInstant(picture, linked.instant);
  const index = read?.at.index ?? linkedAt ?? picture.pyramid.levels[0].length - 1;
  const momentAt = moment === undefined ? -1 : indexOfInstant(picture, moment);
  return {
    ...{ handles, draft, heads: picture.studies?.heads(scale, index) ?? [] },
    ...(box ? { box } : {}),
    ...(read ? { cross: read.cross } : {}),
    ...(linked && linkedAt !== undefined && !read
      ? { linked: { x: scale.x(linkedAt), ...(linked.price === undefined ? {} : { y: scale.y(linked.price) }) } }
      : {}),
    ...(momentAt < 0 ? {} : { moment: { x: scale.x(momentAt), time: instantText(picture, momentAt) } }),
  };
}
