import type { Mark, MarkKind } from "#core/marks/kind";

export interface DismissalProps {
  /** Keys under which the fact was found, on every rung that showed it. */
  keys: string[];
  /** What it was. */
  name: string;
}

const MOST_KEYS = 40;
const LONGEST_KEY = 160;

/** Keys from untrusted data. */
export function readKeys(keys: unknown): string[] | undefined {
  const are =
    Array.isArray(keys) &&
    keys.length <= MOST_KEYS &&
    keys.every((key) => typeof key === "string" && key.length > 0 && key.length <= LONGEST_KEY);
  return are ? (keys as string[]) : undefined;
}

/**
 * A no to something the machine offered: it does not come back. Undone like any other mark; it draws and says nothing.
 */
export const dismissal: MarkKind<DismissalProps, null> = {
  kind: "dismissal",
  title: "Dismissed proposal",
  silent: true,
  anchors: { least: 1, most: 1 },
  readProps({ keys = [], name = "" }) {
    const read = readKeys(keys);
    return read && typeof name === "string" && name.length <= 120 ? { keys: read, name } : undefined;
  },
  check: () => [],
  start: () => null,
  advance: (_mark, state) => state,
  status: () => ({ code: "none", dead: false }),
  prices: () => [],
  say: ({ props: { name } }) => `Dismissed: ${name}.`,
};

/** Keys of everything a yes or a no was said to. */
export function answeredKeys(marks: readonly Mark[]): Set<string> {
  return new Set(
    marks.flatMap(({ kind, props, found }) =>
      kind === dismissal.kind ? (props as unknown as DismissalProps).keys : (found?.keys ?? []),
    ),
  );
}
