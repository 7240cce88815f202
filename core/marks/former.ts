import type { DeadStatement } from "#core/marks/count";
import type { Life, Mark } from "#core/marks/kind";
import { kindNamed, kindOf } from "#core/marks/registry";

/** A mark and its life as they were frozen, told as a kind that has another name and more to say today. */
export function asToday(frozen: { mark: Mark; life: Life }): { mark: Mark; life: Life } {
  const { mark, life } = frozen;
  const kind = kindNamed(mark.kind);
  if (kind === mark.kind) return frozen;
  const { killed, reached = [] } = life.state as {
    killed?: { time: number; statement: string; rule: string; price: number };
    reached?: number[];
  };
  const died: DeadStatement[] = killed ? [{ ...killed, at: [], side: "below" }] : [];
  return {
    mark: { ...mark, kind, props: kindOf({ kind }).readProps(mark.props, mark.anchors.length) ?? mark.props },
    life: { ...life, state: { died, reached } },
  };
}
