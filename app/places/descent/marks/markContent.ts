import type { Mark } from "#core/marks/kind";

/** A mark as it is sent: what the server decides itself is left out. */
export function plain({ id, kind, rung, anchors, props, note, locked, hidden, copied, found }: Mark) {
  return {
    id,
    kind,
    rung,
    anchors: anchors.map(({ time, price }) => ({ time, price })),
    props,
    note,
    locked: locked || undefined,
    hidden: hidden || undefined,
    copied,
    found,
  };
}

/** Whether two marks say the same, whatever their versions; two that are missing do. */
export function same(a: Mark | undefined, b: Mark | undefined): boolean {
  return a && b ? JSON.stringify(plain(a)) === JSON.stringify(plain(b)) : a === b;
}
