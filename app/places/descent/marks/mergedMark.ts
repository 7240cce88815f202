import type { Mark } from "#core/marks/kind";
import { plain } from "./markContent.ts";

type Fields = Record<string, unknown>;

/**
 * What two people made of one mark at the same time, put together field by field: who left a field as it was has
 * nothing against what the other made of it. Anchors are fields of their own while there are as many as before, and so
 * is each prop. `undefined` where both gave one field different values: then somebody has to choose.
 */
export function mergedMark(base: Mark, ours: Mark, theirs: Mark): Mark | undefined {
  const [before, mine, other] = [base, ours, theirs].map(fieldsOf);
  const names = new Set([before, mine, other].flatMap((fields) => Object.keys(fields)));
  const merged: Fields = {};
  for (const name of names) {
    const [was, own, else_] = [before[name], mine[name], other[name]].map((value) => JSON.stringify(value));
    if (own !== was && else_ !== was && own !== else_) return undefined;
    const value = own === was ? other[name] : mine[name];
    if (value !== undefined) merged[name] = value;
  }
  return { ...markOf(merged), author: theirs.author, market: theirs.market, version: theirs.version };
}

/** A mark as flat fields: "anchors.0", "props.label", "note". */
function fieldsOf(mark: Mark): Fields {
  const { anchors, props, ...rest } = plain(mark);
  return {
    ...rest,
    anchors: anchors.length,
    ...Object.fromEntries(anchors.map((anchor, i) => [`anchors.${i}`, anchor])),
    ...Object.fromEntries(Object.entries(props).map(([name, value]) => [`props.${name}`, value])),
  };
}

function markOf({ anchors, ...fields }: Fields): Mark {
  const props = Object.entries(fields).filter(([name]) => name.startsWith("props."));
  const rest = Object.entries(fields).filter(([name]) => !name.includes("."));
  return {
    ...Object.fromEntries(rest),
    anchors: Array.from({ length: anchors as number }, (_, i) => fields[`anchors.${i}`]),
    props: Object.fromEntries(props.map(([name, value]) => [name.slice("props.".length), value])),
  } as unknown as Mark;
}
