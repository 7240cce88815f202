import type { Anchor, Mark } from "#core/marks/kind";
import { kindOf, type DrawnKind } from "#core/marks/registry";
import type { Degree } from "#core/waves/degrees";
import { labelText } from "#core/waves/notation";
import { PATTERNS, type Pattern } from "#core/waves/patterns";
import type { Palette } from "../../../../chart/palette.ts";

/** How a kind of mark is placed by hand and shown in the workspace, in the working order of the steps. */
export interface KindInHand {
  kind: DrawnKind;
  /** Name of its step above the chart. */
  step: string;
  /** Stands behind the others in the line of steps: found there once one was placed, and in the menu on the chart. */
  more?: true;
  pigment(mark: Mark): keyof Palette;
  /** What the next click means, when so many anchors are set. */
  next(anchors: number, wave?: PlacedWave): string;
  anchorName(index: number): string;
}

/** In the working order of the steps; a kind that is drawn and cannot be taken in hand does not compile. */
const IN_HAND: Readonly<Record<DrawnKind, Omit<KindInHand, "kind">>> = {
  level: {
    step: "Levels",
    pigment: () => "slate",
    next: () => "Level: click its price.",
    anchorName: () => "Price",
  },
  fittedLevel: {
    step: "Fitted levels",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      anchors === 0
        ? "Fitted level: click where its window begins, near the price you mean."
        : "Fitted level: click where its window ends.",
    anchorName: (index) => (index === 0 ? "Window from" : "Window to"),
  },
  trendLine: {
    step: "Lines",
    pigment: () => "slate",
    next: (anchors) => `Trend line: click the ${anchors === 0 ? "first" : "second"} swing it runs through.`,
    anchorName: (index) => (index === 0 ? "First" : "Second"),
  },
  channel: {
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
  swingChannel: {
    step: "Swing channels",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      `Channel from swings: click the ${["first", "second", "third"][anchors]} swing, in order of time.`,
    anchorName: (index) => ["First swing", "Second swing", "Third swing"][index],
  },
  regressionChannel: {
    step: "Regressions",
    more: true,
    pigment: () => "slate",
    next: (anchors) => `Regression channel: click where its window ${anchors === 0 ? "begins" : "ends"}.`,
    anchorName: (index) => (index === 0 ? "Window from" : "Window to"),
  },
  structure: {
    step: "Structure",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      anchors === 0 ? "Structure: click the swing that was broken." : "Structure: click the bar that closed beyond it.",
    anchorName: (index) => (index === 0 ? "Swing" : "Bar"),
  },
  pool: {
    step: "Pools",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      anchors === 0 ? "Resting orders: click a high or low." : "Resting orders: click an equal one, or press Escape.",
    anchorName: (index) => `Swing ${index + 1}`,
  },
  gap: {
    step: "Gaps",
    more: true,
    pigment: ({ anchors }) => (anchors.length > 1 && anchors[1].price < anchors[0].price ? "ochre" : "indigo"),
    next: () => "Gap: click its middle candle.",
    anchorName: (index) => (index === 0 ? "Far edge" : "Near edge"),
  },
  zone: {
    step: "Zones",
    pigment: ({ props }) => (props.side === "supply" ? "ochre" : "indigo"),
    next: () => "Zone: click the base price left from.",
    anchorName: (index) => (index === 0 ? "Near edge" : "Far edge"),
  },
  count: {
    step: "Waves",
    pigment: () => "plum",
    next: (anchors, wave) => nextTurn(anchors, wave),
    anchorName: (index) => (index === 0 ? "Start" : `Pivot ${index}`),
  },
  retracement: {
    step: "Retracements",
    more: true,
    pigment: () => "verdigris",
    next: (anchors) => `Retracement: click the ${anchors === 0 ? "start" : "end"} of the leg.`,
    anchorName: (index) => (index === 0 ? "From" : "To"),
  },
  projection: {
    step: "Projections",
    pigment: () => "verdigris",
    next: (anchors) =>
      [
        "Projection: click the start of the leg.",
        "Projection: click the end of the leg.",
        "Projection: click where the way back ended.",
      ][anchors],
    anchorName: (index) => ["A, leg from", "B, leg to", "C, laid from"][index],
  },
  extension: {
    step: "Extensions",
    more: true,
    pigment: () => "verdigris",
    next: (anchors) => `Extension: click the ${anchors === 0 ? "start" : "end"} of the leg.`,
    anchorName: (index) => (index === 0 ? "From" : "To"),
  },
  measuredMove: {
    step: "Measured moves",
    more: true,
    pigment: () => "verdigris",
    next: (anchors) =>
      anchors === 0
        ? "Measured move: click the far edge of the height."
        : "Measured move: click the edge it is left at.",
    anchorName: (index) => (index === 0 ? "Far edge" : "Edge it leaves"),
  },
  timeRatios: {
    step: "Time ratios",
    more: true,
    pigment: () => "verdigris",
    next: (anchors) =>
      [
        "Time ratios: click the start of the leg.",
        "Time ratios: click the end of the leg.",
        "Time ratios: click where they are counted from, or press Escape for the leg's end.",
      ][anchors],
    anchorName: (index) => ["Leg from", "Leg to", "Counted from"][index],
  },
  speedLines: {
    step: "Speed lines",
    more: true,
    pigment: () => "verdigris",
    next: (anchors) => `Speed lines: click the ${anchors === 0 ? "start" : "end"} of the leg.`,
    anchorName: (index) => (index === 0 ? "From" : "To"),
  },
  arcs: {
    step: "Arcs",
    more: true,
    pigment: () => "verdigris",
    next: (anchors) => `Arcs: click the ${anchors === 0 ? "start" : "end"} of the leg they are about.`,
    anchorName: (index) => (index === 0 ? "From" : "To, their middle"),
  },
  cycle: {
    step: "Cycles",
    more: true,
    pigment: () => "verdigris",
    next: (anchors) =>
      anchors < 2 ? `Cycle: click low ${anchors + 1}.` : "Cycle: click the next low, or press Escape.",
    anchorName: (index) => `Low ${index + 1}`,
  },
  anchoredAverage: {
    step: "Anchored averages",
    more: true,
    pigment: () => "verdigris",
    next: () => "Anchored average: click the bar it begins with.",
    anchorName: () => "Begins",
  },
  divergence: {
    step: "Divergences",
    more: true,
    pigment: () => "slate",
    next: (anchors) => `Divergence: click the ${anchors === 0 ? "first" : "second"} swing.`,
    anchorName: (index) => (index === 0 ? "First swing" : "Second swing"),
  },
  pattern: {
    step: "Patterns",
    more: true,
    pigment: () => "slate",
    next: (anchors) =>
      anchors < 4
        ? `Pattern: click turn ${anchors + 1}, in order of time.`
        : `Pattern: click turn ${anchors + 1}, or press Escape.`,
    anchorName: (index) => `Turn ${index + 1}`,
  },
  path: {
    step: "Paths",
    more: true,
    pigment: () => "carmine",
    next: (anchors) => (anchors === 0 ? "Path: click where it begins." : `Path: click turn ${anchors}.`),
    anchorName: (index) => (index === 0 ? "Begins" : `Turn ${index}`),
  },
  note: {
    step: "Notes",
    pigment: () => "ink2",
    next: () => "Note: click its place.",
    anchorName: () => "Beside",
  },
};

export const KINDS: readonly KindInHand[] = Object.entries(IN_HAND).map(([kind, own]) => ({
  kind: kind as DrawnKind,
  ...own,
}));

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
