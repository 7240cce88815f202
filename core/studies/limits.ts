/** Studies on one set of charts, and panels that one chart has room for. */
export const MOST_STUDIES = 16;
export const MOST_PANELS = 4;
/** Heights of a panel as shares of its chart. */
export const PANEL = { least: 0.06, usual: 0.14, most: 0.4 } as const;
