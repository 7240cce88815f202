import { priceText } from "#core/marks/wording";
import { makeScale } from "../../../chart/scale.ts";
import { momentText } from "../../parts/times.ts";
import type { Pointing } from "../../../server/readers/pointing.ts";

/** A price that was published, and what it is. */
export interface Place {
  bottom: number;
  top: number;
  says: string;
}

/** What a picture shows at a point of it. */
export interface Pointed {
  /** Where the cross is drawn, in the picture's own pixels. */
  x: number;
  y: number;
  size: Pointing["size"];
  price: number;
  bar: Pointing["bars"][number] | undefined;
  /** The published price that is meant; none where none is near. */
  place: Place | undefined;
}

/** How near (in the picture's pixels) a published price has to be to be meant. */
const NEAR = 7;

/** Reads a picture at a point of it; nothing outside its plot. The cross stands on the middle of a bar. */
export function pointedAt(pointing: Pointing, places: readonly Place[], x: number, y: number): Pointed | undefined {
  const { plot, view, first, bars, size } = pointing;
  if (x < plot.left || x > plot.left + plot.width || y < plot.top || y > plot.top + plot.height) return undefined;
  const scale = makeScale(view, plot);
  const index = Math.round(scale.index(x));
  const place = nearest(places, (price) => scale.y(price), y);
  return { x: scale.x(index), y, size, price: scale.price(y), bar: bars[index - first], place };
}

/** The cross some bars further, at the close there: so it is walked by keys. */
export function steppedFrom(pointing: Pointing, at: Pointed | undefined, bars: number): { x: number; y: number } {
  const scale = makeScale(pointing.view, pointing.plot);
  const last = pointing.first + pointing.bars.length - 1;
  const from = at === undefined ? last : Math.round(scale.index(at.x)) + bars;
  const index = Math.min(Math.max(from, pointing.first), last);
  return { x: scale.x(index), y: scale.y(pointing.bars[index - pointing.first][4]) };
}

function nearest(places: readonly Place[], yOf: (price: number) => number, y: number): Place | undefined {
  const away = ({ bottom, top }: Place) => Math.max(yOf(top) - y, y - yOf(bottom), 0);
  // Of several the narrowest is meant: a line before the zone it lies in.
  const size = ({ bottom, top }: Place) => top - bottom;
  return places
    .filter((place) => away(place) <= NEAR)
    .sort((a, b) => size(a) - size(b) || away(a) - away(b))
    .at(0);
}

/** When a bar was: its moment, or its date where it is of a day or longer, whose time is a label and no instant. */
export const barTime = (time: number, rung: string, moment: (time: number) => string): string =>
  rung.startsWith("PT") ? moment(time) : momentText(time, "utc").replace(/, [\d:]+$/, "");

/** The values of a bar in one line. */
export function barText([, open, high, low, close]: Pointing["bars"][number], market: { decimals: number }): string {
  const [o, h, l, c] = [open, high, low, close].map((price) => priceText(price, market));
  return `open ${o}, high ${h}, low ${l}, close ${c}`;
}
