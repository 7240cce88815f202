import { distanceTo } from "#core/areas/areas";
import type { Life, Mark } from "#core/marks/kind";
import { linesAt, type PatternProps, type PatternState } from "#core/marks/pattern";
import { patternTitle, type PatternName } from "#core/patterns/registry";

/** A pattern that waits for its break, as a sentence is filled from it. */
export interface PatternGround {
  name: PatternName;
  title: string;
  /** The ways it may be left; the usual one first. */
  ways: readonly ["up" | "down", ("up" | "down")?];
  /** The price beyond which each way out is wrong. */
  wrong: Readonly<Record<"up" | "down", number>>;
}

/** Patterns of a rung that wait for their break, the one whose line is nearest to price first. */
export function patternsWaiting(
  lived: readonly { mark: Mark; life: Life }[],
  rung: string,
  close: number,
): PatternGround[] {
  const waiting = lived.flatMap(({ mark, life }) => {
    if (mark.kind !== "pattern" || mark.rung !== rung || mark.hidden || life.code !== "forming") return [];
    const state = life.state as PatternState;
    const { confirm, against } = linesAt(state);
    const [upper, lower] = confirm > against ? [confirm, against] : [against, confirm];
    const { pattern } = mark.props as unknown as PatternProps;
    const own = state.sign > 0 ? ("up" as const) : ("down" as const);
    const found: PatternGround = {
      ...{ name: pattern, title: patternTitle(pattern, state.sign) },
      ways: state.form.isEither ? ["up", "down"] : [own],
      wrong: { up: lower, down: upper },
    };
    return [{ found, away: Math.abs(distanceTo({ bottom: confirm, top: confirm }, close)) }];
  });
  return waiting.sort((a, b) => a.away - b.away).map(({ found }) => found);
}
