import type { Mark } from "#core/marks/kind";

/** One thing two versions of a mark say differently. */
export interface Difference {
  what: string;
  ours: string;
  theirs: string;
}

export interface Wording {
  price(value: number): string;
  time(value: number): string;
  /** Name of anchor `index`: "Near edge". */
  anchor(index: number): string;
  /** Name of what a kind keeps besides its anchors: "Name" for `label`. */
  prop(name: string): string;
}

/** What two versions of one mark say differently, in words; a version that is missing was removed. */
export function differences(ours: Mark | undefined, theirs: Mark | undefined, say: Wording): Difference[] {
  if (!ours || !theirs)
    return [{ what: "The mark", ours: ours ? "stands" : "removed", theirs: theirs ? "stands" : "removed" }];
  const out: Difference[] = [];
  const compare = (what: string, a: string, b: string) => {
    if (a !== b) out.push({ what, ours: a, theirs: b });
  };
  for (let i = 0; i < Math.max(ours.anchors.length, theirs.anchors.length); i++) {
    const [a, b] = [ours.anchors.at(i), theirs.anchors.at(i)];
    compare(say.anchor(i), a ? say.price(a.price) : "none", b ? say.price(b.price) : "none");
    compare(`${say.anchor(i)}, time`, a ? say.time(a.time) : "none", b ? say.time(b.time) : "none");
  }
  for (const name of new Set([...Object.keys(ours.props), ...Object.keys(theirs.props)]))
    compare(say.prop(name), worded(ours.props[name]), worded(theirs.props[name]));
  compare("Remark", ours.note, theirs.note);
  compare("Locked", worded(ours.locked ?? false), worded(theirs.locked ?? false));
  compare("Hidden", worded(ours.hidden ?? false), worded(theirs.hidden ?? false));
  return out;
}

function worded(value: unknown): string {
  if (value === undefined) return "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  return typeof value === "string" ? value : JSON.stringify(value);
}
