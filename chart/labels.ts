import type { Plot } from "./scale.ts";
import { textWidth, type Shape, type TextShape } from "./shapes.ts";

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** How far a label may be moved off its line before it is left out: further off it would name the wrong one. */
const FURTHEST = 20;
/** How far a label at a pivot may climb: the pivot it goes with is right beneath it. */
const CLIMB = 42;
/** Steps in which a label is moved along its line, and how far at most: the eye looks for it at its end. */
const SLIDE = 20;
const LONGEST = 300;

/** Labels that are placed in one chart: more would be a wall of them. */
const MOST = 40;

/**
 * Moves movable labels along their line, or off it by little, until none covers another or leaves the plot; one that
 * finds no room at its line is left out (it stands in the table). What is called and what is chosen is placed first,
 * then those nearest to the height `about` (the last price), and never in another order than their prices.
 * Fixed texts and level lines are kept clear; of labels at swings that would cover each other the first stays, wave
 * labels move out of each other's way. Each label is compared with those at its height only.
 */
export function separateLabels(all: readonly Shape[], plot: Plot, about: number): Shape[] {
  const shapes = saidOnce(all);
  const texts = shapes.filter((shape): shape is TextShape => shape.kind === "text" && !shape.movable);
  const taken = new Taken(texts.filter((text) => !text.yields).map(boxOf));
  const placed = new Map<Shape, Shape | undefined>();
  const order: Stand[] = texts.map((text) => standOf(text, boxOf(text)));
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
  const across = new Taken(shapes.flatMap(slantedLines));
  const movable = shapes.filter((shape): shape is TextShape => shape.kind === "text" && shape.movable === true);
  let count = 0;
  const far = ({ first, y }: TextShape) => (first ? 0 : 1e6) + Math.abs(y - about);
  for (const label of [...movable].sort((a, b) => far(a) - far(b))) {
    const home = boxOf(label);
    if (count >= MOST || home.bottom < plot.top || home.top > plot.top + plot.height) {
      placed.set(label, undefined);
      continue;
    }
    count++;
    const shift = roomFor(label, { taken, across, order, plot });
    placed.set(label, shift && { ...label, x: label.x + shift.x, y: label.y + shift.y });
    if (!shift) continue;
    taken.add(moved(home, shift.y, shift.x));
    order.push(standOf(label, moved(home, shift.y, shift.x)));
  }
  const left = shapes.flatMap((shape) => (placed.has(shape) ? (placed.get(shape) ?? []) : shape));
  // What is written stands over what is drawn: no line goes through a number.
  return [...left.filter(({ kind }) => kind !== "text"), ...left.filter(({ kind }) => kind === "text")];
}

/**
 * Where a label belongs, at its line, and where its middle stands: of two at one place the higher price stays higher.
 */
interface Stand extends Pick<Box, "left" | "right"> {
  home: number;
  at: number;
}

function standOf({ y }: TextShape, { left, right, top, bottom }: Box): Stand {
  return { left, right, home: y, at: (top + bottom) / 2 };
}

/** Heights this near are the same price to the eye (px). */
const SAME = 4;

function swaps(one: Stand, other: Stand): boolean {
  if (one.left >= other.right || other.left >= one.right) return false;
  const apart = one.home - other.home;
  return Math.abs(apart) > SAME && Math.sign(one.at - other.at) !== Math.sign(apart);
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

/**
 * How far a label at a pivot has to move away from it to be clear of the others. At the edge of the plot it is drawn
 * back over its pivot rather than cut in two.
 */
function climbFor(home: Box, way: 1 | -1, taken: Taken, plot: Plot): number | undefined {
  const cut = Math.ceil(Math.max(0, way > 0 ? home.bottom - (plot.top + plot.height) : plot.top - home.top));
  if (cut > 0)
    return cut <= home.bottom - home.top && !taken.overlaps(moved(home, -way * cut)) ? -way * cut : undefined;
  for (let step = 0; step <= CLIMB; step += 2) {
    const box = moved(home, way * step);
    if (!isInside(box, plot)) return undefined;
    if (!taken.overlaps(box)) return way * step;
  }
  return undefined;
}

/** What a label has to keep clear of, and its order among the others. */
interface Around {
  taken: Taken;
  across: Taken;
  order: readonly Stand[];
  plot: Plot;
}

interface Shift {
  x: number;
  y: number;
}

/**
 * Where a label at its line is clear of what is taken, and of lines that go across if there is such a place: just
 * beside its line, anywhere along it, and only then a little further off.
 */
function roomFor(label: TextShape, { taken, across, order, plot }: Around): Shift | undefined {
  const home = boxOf(label);
  let crossed: Shift | undefined;
  for (const shift of shiftsOf(label)) {
    const box = moved(home, shift.y, shift.x);
    if (!isInside(box, plot) || taken.overlaps(box)) continue;
    if (order.some((other) => swaps(standOf(label, box), other))) continue;
    if (!across.overlaps(box)) return shift;
    crossed ??= shift;
  }
  return crossed;
}

/** Heights off its line that are as good as beside it: its other side. */
const BESIDE = [0, -2, 2, -4, 4, -6, 6, -8, 8];
const OFF = Array.from({ length: (FURTHEST - 8) / 2 }, (_, i) => 10 + 2 * i).flatMap((off) => [-off, off]);

/** Shifts in the order they are tried. */
function* shiftsOf({ slides = 0, align }: TextShape): Generator<Shift> {
  const way = align === "right" ? -SLIDE : SLIDE;
  for (let step = 0; step * SLIDE <= Math.min(slides, LONGEST); step++)
    for (const y of BESIDE) yield { x: step * way, y };
  for (const y of OFF) yield { x: 0, y };
}

const moved = (box: Box, by: number, along = 0): Box => ({
  left: box.left + along,
  right: box.right + along,
  top: box.top + by,
  bottom: box.bottom + by,
});

const isInside = (box: Box, { top, height }: Plot) => box.top >= top && box.bottom <= top + height;

/** The level lines of a shape as boxes: no label should be struck through. */
function levelLines(shape: Shape): Box[] {
  if (shape.kind !== "path" || !shape.stroke) return [];
  return shape.paths
    .filter(([, y1, , y2, ...more]) => more.length === 0 && y1 === y2)
    .map(([x1, y, x2]) => ({ left: Math.min(x1, x2), right: Math.max(x1, x2), top: y - 0.5, bottom: y + 0.5 }));
}

/** Corners of what is drawn by hand or by a count; bars and averages have more. */
const FEW = 24;

/** Slanted lines of few corners as the boxes they go through, one for each step of their way. */
function slantedLines(shape: Shape): Box[] {
  if (shape.kind !== "path" || !shape.stroke) return [];
  return shape.paths
    .filter((path) => path.length <= 2 * FEW && (path.length > 4 || path[1] !== path[3]))
    .flatMap(boxesAlong);
}

function boxesAlong(path: readonly number[]): Box[] {
  const boxes: Box[] = [];
  for (let i = 0; i + 3 < path.length; i += 2) {
    const [x1, y1, x2, y2] = path.slice(i, i + 4);
    const steps = Math.min(200, Math.max(1, Math.ceil(Math.abs(y2 - y1) / STRIP)));
    for (let n = 0; n < steps; n++) {
      const [a, b] = [n / steps, (n + 1) / steps];
      const [xa, xb, ya, yb] = [x1 + (x2 - x1) * a, x1 + (x2 - x1) * b, y1 + (y2 - y1) * a, y1 + (y2 - y1) * b];
      boxes.push({ left: Math.min(xa, xb), right: Math.max(xa, xb), top: Math.min(ya, yb), bottom: Math.max(ya, yb) });
    }
  }
  return boxes;
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
