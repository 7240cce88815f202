import type { Plot } from "./scale.ts";
import { textWidth, type Shape, type TextShape } from "./shapes.ts";

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** How far a label may be moved before it is left out: further off it would name the wrong line. */
const FURTHEST = 42;

/** Labels that are placed in one chart: more would be a wall of them. */
const MOST = 40;

/**
 * Moves movable labels up or down until none covers another or leaves the plot; one that finds no room near its
 * line is left out (it stands in the table). Those nearest to the height `about` (the last price) are placed first.
 * Fixed texts and level lines are kept clear; of labels at swings that would cover each other the first stays, wave
 * labels move out of each other's way. Each label is compared with those at its height only.
 */
export function separateLabels(all: readonly Shape[], plot: Plot, about: number): Shape[] {
  const shapes = saidOnce(all);
  const texts = shapes.filter((shape): shape is TextShape => shape.kind === "text" && !shape.movable);
  const taken = new Taken(texts.filter((text) => !text.yields).map(boxOf));
  const placed = new Map<Shape, Shape | undefined>();
  for (const text of texts.filter(({ yields }) => yields)) {
    const box = boxOf(text);
    const away = text.climbs
      ? climbFor(box, text.baseline === "bottom" ? -1 : 1, taken, plot)
      : taken.overlaps(box)
        ? undefined
        : 0;
    placed.set(text, away === undefined ? undefined : { ...text, y: text.y + away });
    if (away !== undefined) taken.add({ ...box, top: box.top + away, bottom: box.bottom + away });
  }
  for (const line of shapes.flatMap(levelLines)) taken.add(line);
  const movable = shapes.filter((shape): shape is TextShape => shape.kind === "text" && shape.movable === true);
  let count = 0;
  for (const label of [...movable].sort((a, b) => Math.abs(a.y - about) - Math.abs(b.y - about))) {
    const home = boxOf(label);
    if (count >= MOST || home.bottom < plot.top || home.top > plot.top + plot.height) {
      placed.set(label, undefined);
      continue;
    }
    count++;
    const shift = roomFor(home, taken, plot);
    placed.set(label, shift === undefined ? undefined : { ...label, y: label.y + shift });
    if (shift !== undefined) taken.add({ ...home, top: home.top + shift, bottom: home.bottom + shift });
  }
  return shapes.flatMap((shape) => (placed.has(shape) ? (placed.get(shape) ?? []) : shape));
}

/** Labels that say the same at the same place, as of a count and its fork, are said once. */
function saidOnce(shapes: readonly Shape[]): readonly Shape[] {
  const said = new Set<string>();
  return shapes.filter((shape) => {
    if (shape.kind !== "text" || !(shape.movable || shape.climbs)) return true;
    const key = `${shape.text} ${Math.round(shape.x)} ${Math.round(shape.y)}`;
    return !said.has(key) && said.add(key);
  });
}

/** Boxes by the strips of the plot they reach into, so that a box is held against its neighbours alone. */
class Taken {
  private readonly strips = new Map<number, Box[]>();

  constructor(boxes: readonly Box[]) {
    for (const box of boxes) this.add(box);
  }

  add(box: Box): void {
    for (let strip = stripOf(box.top); strip <= stripOf(box.bottom); strip++) {
      const boxes = this.strips.get(strip);
      if (boxes) boxes.push(box);
      else this.strips.set(strip, [box]);
    }
  }

  overlaps(box: Box): boolean {
    for (let strip = stripOf(box.top); strip <= stripOf(box.bottom); strip++)
      if (this.strips.get(strip)?.some((other) => overlaps(box, other))) return true;
    return false;
  }
}

/** Pixels of a strip: about a line of text. */
const STRIP = 16;
const stripOf = (y: number) => Math.floor(Math.max(-1e4, Math.min(1e4, y)) / STRIP);

/** How far a label at a pivot has to move away from it to be clear of the others. */
function climbFor(home: Box, way: 1 | -1, taken: Taken, plot: Plot): number | undefined {
  for (let step = 0; step <= FURTHEST; step += 2) {
    const box = { ...home, top: home.top + way * step, bottom: home.bottom + way * step };
    if (step > 0 && (box.top < plot.top || box.bottom > plot.top + plot.height)) return undefined;
    if (!taken.overlaps(box)) return way * step;
  }
  return undefined;
}

function roomFor(home: Box, taken: Taken, plot: Plot): number | undefined {
  for (let step = 0; step <= FURTHEST; step += 2)
    for (const shift of step === 0 ? [0] : [step, -step]) {
      const box = { ...home, top: home.top + shift, bottom: home.bottom + shift };
      const inside = box.top >= plot.top && box.bottom <= plot.top + plot.height;
      if (inside && !taken.overlaps(box)) return shift;
    }
  return undefined;
}

/** The level lines of a shape as boxes: no label should be struck through. */
function levelLines(shape: Shape): Box[] {
  if (shape.kind !== "path" || !shape.stroke) return [];
  return shape.paths
    .filter(([, y1, , y2, ...more]) => more.length === 0 && y1 === y2)
    .map(([x1, y, x2]) => ({ left: Math.min(x1, x2), right: Math.max(x1, x2), top: y - 0.5, bottom: y + 0.5 }));
}

function overlaps(a: Box, b: Box): boolean {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}

/** The box of a text, by its anchor. */
export function boxOf({ x, y, text, size = 12, align = "left", baseline = "middle" }: TextShape): Box {
  const width = textWidth(text, size);
  const height = size * 1.15;
  const left = align === "right" ? x - width : align === "center" ? x - width / 2 : x;
  const top = baseline === "bottom" ? y - height : baseline === "top" ? y : y - height / 2;
  return { left, right: left + width, top, bottom: top + height };
}
