import type { EditionPart, See } from "#core/edition/parts";
import { canSee, PARTS } from "#core/edition/parts";
import { kindNamed, type KindName } from "#core/marks/registry";
import type { PictureLayout } from "#core/edition/layouts";
import type { Section } from "./section.ts";

/** Parts of a plan that change what a picture shows. */
const IN_PICTURES = ["words", "levels", "counts", "orders"] as const satisfies readonly EditionPart[];
export type PicturePart = (typeof IN_PICTURES)[number];

/** The part of a plan that shows marks of a kind; what is the desk's own is in no picture of a reader's. */
export const MARK_SEEN_WITH: Readonly<Record<KindName, "levels" | "counts" | "desk">> = {
  ...{ level: "levels", fittedLevel: "levels", trendLine: "levels", channel: "levels", structure: "levels" },
  ...{ pool: "levels", gap: "levels", zone: "levels", retracement: "levels", path: "levels" },
  ...{ swingChannel: "levels", regressionChannel: "levels", divergence: "levels", projection: "levels" },
  ...{ extension: "levels", measuredMove: "levels", timeRatios: "levels", speedLines: "levels", arcs: "levels" },
  ...{ cycle: "levels", anchoredAverage: "levels", pattern: "levels" },
  count: "counts",
  ...{ note: "desk", bearing: "desk", dismissal: "desk" },
};

/** The part of a plan that shows marks of a kind; those of a kind that stands nowhere are shown to nobody. */
export function partOfMark(kind: string): "levels" | "counts" | "desk" {
  const name = kindNamed(kind);
  return Object.hasOwn(MARK_SEEN_WITH, name) ? MARK_SEEN_WITH[name as KindName] : "desk";
}

type Parted = Pick<Section, "marks" | "scenarios" | "studies">;

/** Which of a plan's parts a section's whole picture has something of. */
export function partsDrawn({ marks, scenarios, studies = [] }: Parted): PicturePart[] {
  const drawn = new Set<string | undefined>(marks.map(({ mark }) => partOfMark(mark.kind)));
  if (scenarios.length > 0) drawn.add("orders");
  // What studies read is words, and so are they.
  if (studies.length > 0) drawn.add("words");
  return IN_PICTURES.filter((part) => drawn.has(part));
}

/** The same section without what parts of a plan do not show: neither drawn nor making room for itself. */
export function drawnFor<T extends Parted>(section: T, parts: readonly EditionPart[]): T {
  const isShown = (kind: string) => canSee(partOfMark(kind), parts);
  return {
    ...section,
    marks: section.marks.filter(({ mark }) => isShown(mark.kind)),
    scenarios: canSee("orders", parts) ? section.scenarios : [],
    studies: canSee("words", parts) ? section.studies : [],
  };
}

/** The different pictures of a section that some plans show: each as the parts that are in it, the fullest first. */
export function picturesFor(section: Parted, plans: readonly (readonly EditionPart[])[]): PicturePart[][] {
  const drawn = partsDrawn(section);
  const sets = [PARTS, ...plans]
    .filter((parts) => parts.includes("pictures"))
    .map((parts) => drawn.filter((part) => parts.includes(part)));
  const once = new Map(sets.map((set) => [set.join("+"), set]));
  return [...once.values()].sort((a, b) => b.length - a.length);
}

/** The name of a picture: its layout and what is in it, as "phone levels+orders". */
export function viewName(layout: PictureLayout, parts: readonly PicturePart[]): string {
  return [layout, parts.join("+")].filter(Boolean).join(" ");
}

/** What a plan must show to be shown the picture of that name; only a whole one is shown where it cannot be read. */
export function seeOfView(name: string): See {
  if (name === "") return "pictures+levels+counts+scenarios+orders";
  const [, parts = ""] = name.split(" ");
  return (parts === "" ? "pictures" : `pictures+${parts}`) as See;
}
