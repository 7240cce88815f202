/** Bars that go into an edition's picture. */
export const SHOWN = 200;

/** How a picture is laid out: its size in pixels of the SVG, and how many bars it shows at most. */
export const LAYOUTS = {
  wide: { width: 860, height: 460, bars: SHOWN },
  phone: { width: 360, height: 330, bars: 70 },
  paper: { width: 680, height: 300, bars: SHOWN },
} as const;

export type PictureLayout = keyof typeof LAYOUTS;
export const LAYOUT_NAMES = Object.keys(LAYOUTS) as PictureLayout[];
