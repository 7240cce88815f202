import type { Anchor, Mark } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import type { Palette } from "../../../chart/palette.ts";

/** How a kind of mark is placed by hand and shown in the workspace, in the working order of the steps. */
export interface KindInHand {
  kind: string;
  /** Name of its step above the chart. */
  step: string;
  pigment(mark: Mark): keyof Palette;
  /** What the next click means, when so many anchors are set. */
  next(anchors: number): string;
  anchorName(index: number): string;
}

export const KINDS: readonly KindInHand[] = [
  {
    kind: "level",
    step: "Levels",
    pigment: () => "slate",
    next: () => "Level: click its price.",
    anchorName: () => "Price",
  },
  {
    kind: "trendLine",
    step: "Lines",
    pigment: () => "slate",
    next: (anchors) => `Trend line: click the ${anchors === 0 ? "first" : "second"} swing it runs through.`,
    anchorName: (index) => (index === 0 ? "First" : "Second"),
  },
  {
    kind: "zone",
    step: "Zones",
    pigment: ({ props }) => (props.side === "supply" ? "ochre" : "indigo"),
    next: () => "Zone: click the base price left from.",
    anchorName: (index) => (index === 0 ? "Near edge" : "Far edge"),
  },
  {
    kind: "impulse",
    step: "Waves",
    pigment: () => "plum",
    next: (anchors) => `Count: click the ${anchors === 0 ? "start of wave 1" : `end of wave ${anchors}`}.`,
    anchorName: (index) => (index === 0 ? "Start" : `End of ${index}`),
  },
  {
    kind: "retracement",
    step: "Retracements",
    pigment: () => "verdigris",
    next: (anchors) => `Retracement: click the ${anchors === 0 ? "start" : "end"} of the leg.`,
    anchorName: (index) => (index === 0 ? "From" : "To"),
  },
  {
    kind: "note",
    step: "Notes",
    pigment: () => "ink2",
    next: () => "Note: click its place.",
    anchorName: () => "Beside",
  },
];

export function inHand(kind: string): KindInHand | undefined {
  return KINDS.find((one) => one.kind === kind);
}

/** A mark that is being placed: the anchors set so far. */
export interface Placing {
  kind: string;
  anchors: Anchor[];
}

/** Whether the anchors so far already make a mark that may also grow: then Escape keeps it. */
export function mayEndHere({ kind, anchors }: Placing): boolean {
  const { least, most } = kindOf({ kind }).anchors;
  return least < most && anchors.length >= least;
}
