import type { Anchor, Mark } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import type { Degree } from "#core/waves/degrees";
import { labelText } from "#core/waves/notation";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import type { Palette } from "../../../../chart/palette.ts";

/** How a kind of mark is placed by hand and shown in the workspace, in the working order of the steps. */
export interface KindInHand {
  kind: string;
  /** Name of its step above the chart. */
  step: string;
  /** Stands behind the others in the line of steps: found there once one was placed, and in the menu on the chart. */
  more?: true;
  pigment(mark: Mark): keyof Palette;
  /** What the next click means, when so many anchors are set. */
  next(anchors: number, wave?: PlacedWave): string;
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
    kind: "fittedLevel",
    step: "Fitted levels",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      anchors === 0
        ? "Fitted level: click where its window begins, near the price you mean."
        : "Fitted level: click where its window ends.",
    anchorName: (index) => (index === 0 ? "Window from" : "Window to"),
  },
  {
    kind: "trendLine",
    step: "Lines",
    pigment: () => "slate",
    next: (anchors) => `Trend line: click the ${anchors === 0 ? "first" : "second"} swing it runs through.`,
    anchorName: (index) => (index === 0 ? "First" : "Second"),
  },
  {
    kind: "channel",
    step: "Channels",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      [
        "Channel: click the first swing of its base line.",
        "Channel: click the second swing of its base line.",
        "Channel: click what the parallel runs through.",
      ][anchors],
    anchorName: (index) => ["First", "Second", "Parallel through"][index],
  },
  {
    kind: "structure",
    step: "Structure",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      anchors === 0 ? "Structure: click the swing that was broken." : "Structure: click the bar that closed beyond it.",
    anchorName: (index) => (index === 0 ? "Swing" : "Bar"),
  },
  {
    kind: "pool",
    step: "Pools",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      anchors === 0 ? "Resting orders: click a high or low." : "Resting orders: click an equal one, or press Escape.",
    anchorName: (index) => `Swing ${index + 1}`,
  },
  {
    kind: "gap",
    step: "Gaps",
    more: true,
    pigment: ({ anchors }) => (anchors.length > 1 && anchors[1].price < anchors[0].price ? "ochre" : "indigo"),
    next: () => "Gap: click its middle candle.",
    anchorName: (index) => (index === 0 ? "Far edge" : "Near edge"),
  },
  {
    kind: "zone",
    step: "Zones",
    pigment: ({ props }) => (props.side === "supply" ? "ochre" : "indigo"),
    next: () => "Zone: click the base price left from.",
    anchorName: (index) => (index === 0 ? "Near edge" : "Far edge"),
  },
  {
    kind: "count",
    step: "Waves",
    pigment: () => "plum",
    next: (anchors, wave) => nextTurn(anchors, wave),
    anchorName: (index) => (index === 0 ? "Start" : `Pivot ${index}`),
  },
  {
    kind: "retracement",
    step: "Retracements",
    pigment: () => "verdigris",
    next: (anchors) => `Retracement: click the ${anchors === 0 ? "start" : "end"} of the leg.`,
    anchorName: (index) => (index === 0 ? "From" : "To"),
  },
  {
    kind: "path",
    step: "Paths",
    more: true,
    pigment: () => "carmine",
    next: (anchors) => (anchors === 0 ? "Path: click where it begins." : `Path: click turn ${anchors}.`),
    anchorName: (index) => (index === 0 ? "Begins" : `Turn ${index}`),
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

/** What is being labelled of a count: a whole one, the inside of one of its waves, or the next turn of one. */
export interface PlacedWave {
  pattern: Pattern;
  degree: Degree;
  /** The count and the wave that are gone on with; absent for a new one. */
  into?: { mark: string; at: readonly number[]; way: "inside" | "next" };
  /** Labels of the turns to click, in order. */
  labels: readonly string[];
  /** Turns that may be left out at the end: what is in progress has not come to them. */
  open: boolean;
}

/** A mark that is being placed: the anchors set so far, and for waves what they are labelled as. */
export interface Placing {
  kind: string;
  anchors: Anchor[];
  wave?: PlacedWave | undefined;
  /** What is said of it from the beginning: the side of a zone. */
  props?: Record<string, unknown> | undefined;
}

function nextTurn(anchors: number, wave: PlacedWave | undefined): string {
  if (!wave) return "";
  const { pattern, degree, labels, into } = wave;
  const name = `${degree} ${PATTERNS[pattern].title}`;
  const label = labels[anchors];
  return (
    `${into?.way === "next" ? "Next pivot" : name}: click the ` +
    `${label === "start" ? "start" : `end of ${labelText(label, degree)}`}.`
  );
}

/** How many anchors make it whole. */
export function mostAnchors({ kind, wave }: Placing): number {
  return wave ? wave.labels.length : kindOf({ kind }).anchors.most;
}

/** Whether the anchors so far already make a mark that may also grow: then Escape keeps it. */
export function mayEndHere(placing: Placing): boolean {
  const { kind, anchors, wave } = placing;
  if (wave) return wave.open && anchors.length >= (wave.into ? 1 : 2);
  const { least, most } = kindOf({ kind }).anchors;
  return least < most && anchors.length >= least;
}
