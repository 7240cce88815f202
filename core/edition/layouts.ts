/** Bars that go into an edition's picture. */
export const SHOWN = 200;

/**
 * How a picture is laid out: its size in pixels of the SVG, how many bars it shows at most, and how many pixels of a
 * PNG one of them is. On paper the drawing itself is printed, and there is no PNG.
 */
export const LAYOUTS = {
  wide: { width: 860, height: 460, bars: SHOWN, zoom: 1.5 },
  phone: { width: 360, height: 330, bars: 70, zoom: 2 },
  paper: { width: 680, height: 300, bars: SHOWN, zoom: 0 },
} as const;

export type PictureLayout = keyof typeof LAYOUTS;
export const LAYOUT_NAMES = Object.keys(LAYOUTS) as PictureLayout[];
