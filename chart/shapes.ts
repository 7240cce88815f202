import type { Pigment } from "./palette.ts";

/** Lines, outlines or filled figures of one style: each sub-path is x, y, x, y ... in pixels. */
export interface PathShape {
  kind: "path";
  paths: number[][];
  stroke?: Pigment;
  fill?: Pigment;
  width?: number;
  dash?: number[];
  opacity?: number;
  closed?: boolean;
}

export interface TextShape {
  kind: "text";
  x: number;
  y: number;
  text: string;
  color: Pigment;
  size?: number;
  bold?: boolean;
  serif?: boolean;
  align?: "left" | "center" | "right";
  baseline?: "top" | "middle" | "bottom";
  /** Drawn behind the glyphs so that lines do not run through them. */
  halo?: Pigment;
  /** May be moved up or down to keep clear of other labels. */
  movable?: boolean;
  /** Of a movable one: before the others. */
  first?: boolean;
  /** Of a movable one: how far it may be moved along its line, away from the side it is aligned to (px). */
  slides?: number;
  /** Stays where it is or, where it would cover another text, is left out. */
  yields?: boolean;
  /** Of one that yields: moves away from its point, up or down as it stands, before it is left out. */
  climbs?: boolean;
  /** A filled tag around the text. */
  tag?: Pigment;
  opacity?: number;
}

export type Shape = PathShape | TextShape;

/** Width of a text in the interface's sans, near enough to keep labels apart. */
export function textWidth(text: string, size: number): number {
  return text.length * size * 0.5;
}
