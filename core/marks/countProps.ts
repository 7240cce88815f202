import type { CountNode } from "#core/marks/countNode";
import type { Degree } from "#core/waves/degrees";
import type { Notation } from "#core/waves/notation";
import type { LengthScale } from "#core/waves/wave";

export const ROLES = ["preferred", "alternate", "archived"] as const;
export type CountRole = (typeof ROLES)[number];

export interface CountProps {
  /** Degree of the root; each inner wave is one lower. */
  degree: Degree;
  /** How lengths are measured. */
  scale: LengthScale;
  /** Share of wave 1 by which wave 4 may enter its territory; 0 to 0.5. */
  overlap: number;
  /** Whether a wick ends a statement, or only a close. */
  basis: "wick" | "close";
  role: CountRole;
  /** Stated probability in percent; 0 says nothing. */
  weight: number;
  /** Degrees that are drawn, the root's included. */
  shown: number;
  root: CountNode;
  /** The finest rung its inside was labelled on, where that is not its own. */
  finest?: string;
  /** How degrees are written, where that is not as usual. */
  notation?: Partial<Notation>;
}
