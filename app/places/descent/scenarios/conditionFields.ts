import { PATTERN_FAMILIES, PATTERN_NAMES } from "#core/patterns/registry";
import { rungText } from "#core/marks/wording";
import type { Terms } from "#core/conditions/registry";
import type { WrittenCondition } from "#core/written/written";

/** How a field of a condition is filled in. */
export type FieldSpec =
  | {
      field: string;
      label: string;
      as: "price" | "band" | "rung" | "clock" | "days" | "zone" | "step" | "market" | "when" | "parts";
    }
  | { field: string; label: string; as: "count"; least: number; most: number; optional?: true }
  | { field: string; label: string; as: "amount"; optional?: true }
  | { field: string; label: string; as: "choice"; options: readonly (readonly [value: string, shown: string])[] }
  | { field: "of"; label: string; as: "meter"; quantities: readonly string[] }
  | { field: "of"; label: string; as: "study" };

/** A kind of condition as it is offered and filled in. */
export interface ConditionForm {
  on: string;
  title: string;
  blank(rung: string): WrittenCondition;
  fields: readonly FieldSpec[];
}

const choice = (field: string, label: string, ...options: (readonly [string, string])[]): FieldSpec => ({
  field,
  label,
  as: "choice",
  options,
});
const side = choice("side", "Side", ["above", "above"], ["below", "below"]);
const price: FieldSpec = { field: "price", label: "Price", as: "price" };
const rung: FieldSpec = { field: "rung", label: "Candle of", as: "rung" };

/** Every kind of condition that is written here, in the order of the offers; one left out does not compile. */
const OF: { readonly [On in Exclude<Terms["on"], "then">]: Omit<ConditionForm, "on"> } = {
  close: {
    title: "a candle closes beyond a price",
    blank: (own) => ({ on: "close", side: "above", price: null, rung: own }),
    fields: [rung, side, price],
  },
  touch: {
    title: "price touches a price or a band",
    blank: () => ({ on: "touch", price: null }),
    fields: [price, { field: "band", label: "Band", as: "band" }],
  },
  leave: {
    title: "price leaves a band by so much",
    blank: () => ({ on: "leave", band: null, by: 0, side: "above" }),
    fields: [{ field: "band", label: "Band", as: "band" }, { field: "by", label: "By at least", as: "amount" }, side],
  },
  sweep: {
    title: "price sweeps a level and closes back",
    blank: (own) => ({ on: "sweep", side: "low", price: null, rung: own, within: 0 }),
    fields: [
      choice("side", "What is swept", ["low", "a low"], ["high", "a high"]),
      price,
      rung,
      { field: "within", label: "Back within bars", as: "count", least: 0, most: 1000 },
    ],
  },
  shift: {
    title: "structure shifts",
    blank: (own) => ({ on: "shift", direction: "up", rung: own }),
    fields: [
      choice("direction", "Direction", ["up", "up"], ["down", "down"]),
      { field: "rung", label: "Structure of", as: "rung" },
      { field: "inside", label: "Inside (optional)", as: "band" },
    ],
  },
  hold: {
    title: "closes hold beyond a price",
    blank: (own) => ({ on: "hold", side: "above", price: null, rung: own, bars: 3 }),
    fields: [rung, side, price, { field: "bars", label: "Closes in a row", as: "count", least: 1, most: 1000 }],
  },
  beyondBar: {
    title: "a close beyond the bar of an earlier step",
    blank: () => ({ on: "beyondBar", of: 1, side: "above" }),
    fields: [{ field: "of", label: "Bar of step", as: "step" }, side],
  },
  candle: {
    title: "a turning candle",
    blank: (own) => ({ on: "candle", pattern: "either", rung: own }),
    fields: [
      choice(
        "pattern",
        "Candle",
        ["either", "indecision or engulfing"],
        ["indecision", "indecision"],
        ["engulfing", "engulfing"],
        ["engulfing up", "engulfing up"],
        ["engulfing down", "engulfing down"],
        ["pin up", "pin, long lower wick"],
        ["pin down", "pin, long upper wick"],
        ["inside", "inside bar"],
        ["outside up", "outside bar that rose"],
        ["outside down", "outside bar that fell"],
        ["star up", "morning star"],
        ["star down", "evening star"],
        ["three up", "three that rise"],
        ["three down", "three that fall"],
        ["shaven up", "opened on its low, closed on its high"],
        ["shaven down", "opened on its high, closed on its low"],
      ),
      rung,
      { field: "at", label: "Closing in (optional)", as: "band" },
    ],
  },
  pattern: {
    title: "a pattern is confirmed",
    blank: (own) => ({ on: "pattern", pattern: "any", way: "up", event: "confirmed", rung: own }),
    fields: [
      choice(
        "pattern",
        "Pattern",
        ["any", "any"],
        ...PATTERN_NAMES.map((name) => [name, PATTERN_FAMILIES[name]] as const),
      ),
      choice("way", "Left", ["up", "up"], ["down", "down"], ["either", "either way"]),
      choice(
        "event",
        "Is",
        ["confirmed", "confirmed by a close"],
        ["retested", "retested"],
        ["met", "met at its target"],
        ["failed", "failed beyond its stop"],
      ),
      rung,
    ],
  },
  columns: {
    title: "a count from columns is in force",
    blank: (own) => ({ on: "columns", percent: 1, reversal: 3, way: "up", event: "in force", rung: own }),
    fields: [
      { field: "percent", label: "Box (%)", as: "amount", optional: true },
      { field: "box", label: "Or box (price)", as: "amount", optional: true },
      { field: "reversal", label: "Boxes that turn (1 or 3)", as: "count", least: 1, most: 3 },
      choice("way", "Points", ["up", "up"], ["down", "down"], ["either", "either way"]),
      choice("event", "Is", ["in force", "in force"], ["met", "met"], ["negated", "negated"]),
      rung,
    ],
  },
  average: {
    title: "a close beyond an average",
    blank: (own) => ({ on: "average", of: { quantity: "ema", period: 20 }, side: "above", rung: own }),
    fields: [{ field: "of", label: "Average", as: "meter", quantities: ["sma", "ema", "wma"] }, side, rung],
  },
  oscillator: {
    title: "an oscillator above or below a value",
    blank: (own) => ({ on: "oscillator", of: { quantity: "rsi", period: 14 }, above: 50, rung: own }),
    fields: [
      { field: "of", label: "Oscillator", as: "meter", quantities: ["rsi", "stochastic", "macd"] },
      { field: "above", label: "Above", as: "amount", optional: true },
      { field: "below", label: "Below", as: "amount", optional: true },
      rung,
    ],
  },
  cloud: {
    title: "a close above, below or inside the cloud",
    blank: (own) => ({
      on: "cloud",
      of: { quantity: "cloud", conversion: 9, base: 26, span: 52 },
      side: "above",
      rung: own,
    }),
    fields: [choice("side", "Side", ["above", "above"], ["below", "below"], ["inside", "inside"]), rung],
  },
  study: {
    title: "any study at a close",
    blank: (own) => ({ on: "study", of: { quantity: "commodityChannel", period: 20 }, above: 100, rung: own }),
    fields: [
      { field: "of", label: "Study", as: "study" },
      { field: "above", label: "Above", as: "amount", optional: true },
      { field: "below", label: "Below", as: "amount", optional: true },
      choice("side", "Or the close is", ["", "not asked"], ["above", "above its line"], ["below", "below its line"]),
      rung,
    ],
  },
  time: {
    title: "a time of day",
    blank: () => ({ on: "time", from: "08:00", to: "10:00" }),
    fields: [
      { field: "from", label: "From", as: "clock" },
      { field: "to", label: "To", as: "clock" },
      { field: "days", label: "Weekdays", as: "days" },
      { field: "zone", label: "Zone (the market's)", as: "zone" },
    ],
  },
  market: {
    title: "a condition on another market",
    blank: (own) => ({ on: "market", market: "", when: { on: "close", side: "above", price: null, rung: own } }),
    fields: [
      { field: "market", label: "Market", as: "market" },
      { field: "when", label: "There", as: "when" },
    ],
  },
  not: {
    title: "something is not so",
    blank: (own) => ({ on: "not", of: [{ on: "close", side: "above", price: null, rung: own }] }),
    fields: [{ field: "of", label: "Not", as: "parts" }],
  },
  any: {
    title: "one of several",
    blank: (own) => ({
      on: "any",
      of: ["above", "below"].map((one) => ({ on: "close", side: one, price: null, rung: own })),
    }),
    fields: [{ field: "of", label: "One of", as: "parts" }],
  },
  all: {
    title: "several at once",
    blank: (own) => ({
      on: "all",
      of: ["above", "below"].map((one) => ({ on: "close", side: one, price: null, rung: own })),
    }),
    fields: [{ field: "of", label: "All of", as: "parts" }],
  },
};

export const FORMS: readonly ConditionForm[] = Object.entries(OF).map(([on, form]) => ({ on, ...form }));

export const formOf = (on: string): ConditionForm | undefined => FORMS.find((form) => form.on === on);

/** Where a condition's rung is typed, "Day" for "P1D". */
export const rungOptions = (rungs: readonly string[], own: unknown): (readonly [string, string])[] =>
  [...new Set([...rungs, ...(typeof own === "string" ? [own] : [])])].map((one) => [one, rungText(one)] as const);

/** Whether something is still to be filled in. */
export function hasGap(condition: WrittenCondition): boolean {
  return Object.values(condition).some((value) => value === null || value === "" || Array.isArray(value));
}
