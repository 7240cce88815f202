import { judgeEach, type Condition, OF_BAR, neededFrom } from "#core/conditions/condition";
import { bandText, priceText } from "#core/marks/wording";

export interface LeaveTerms {
  on: "leave";
  band: readonly [number, number];
  /** How far beyond, in price units. */
  by: number;
  side: "above" | "below";
}

/** A close at least so far beyond a band, on one side of it. Judged by what is told. */
export const leave: Condition<LeaveTerms, null> = {
  on: "leave",
  read: (fields) => ({
    on: "leave",
    band: fields.band("band"),
    by: fields.number("by", 0),
    side: fields.oneOf("side", ["above", "below"]),
  }),
  needs: () => [],
  start: () => null,
  next({ band: [bottom, top], by, side }, _state, look) {
    const [sign, edge] = side === "above" ? [1, top] : [-1, bottom];
    return judgeEach(look, undefined, ({ bar }) => sign * (bar.close - edge) >= by - look.tolerance);
  },
  binds: () => OF_BAR,
  about: (terms) => edgeOf(terms),
  needed: (terms, _at, long) => neededFrom(edgeOf(terms), (terms.side === "above") === long),
  turns: (terms) => [edgeOf(terms)],
  say: ({ band: [bottom, top], by, side }, market) =>
    `price leaves ${bandText({ bottom, top }, market)} and closes ` +
    `${by > 0 ? `${priceText(by, market)} ` : ""}${side} it`,
};

/** The least close that leaves the band. */
const edgeOf = ({ side, band, by }: LeaveTerms) => (side === "above" ? band[1] + by : band[0] - by);
