/** One part of a grade: what it is, how good (0 to 1), and how many points it may give at most. */
export interface GradePart {
  part: string;
  share: number;
  weight: number;
}

export interface Grade {
  /** 0 to 100: the points earned of those that could be judged. */
  grade: number;
  parts: GradePart[];
}

/** The grade of parts; those that could not be judged are left out by the caller and count neither way. */
export function gradeOf(parts: readonly GradePart[]): Grade {
  const most = parts.reduce((sum, { weight }) => sum + weight, 0);
  const earned = parts.reduce((sum, { share, weight }) => sum + clamp(share) * weight, 0);
  return {
    grade: most > 0 ? Math.round((100 * earned) / most) : 0,
    parts: parts.map((part) => ({ ...part, share: clamp(part.share) })),
  };
}

/** 0 at `from` and below, 1 at `to` and above, straight between; `from` may be the larger. */
export function between(value: number, from: number, to: number): number {
  return clamp((value - from) / (to - from));
}

function clamp(share: number): number {
  return Math.min(1, Math.max(0, share));
}
