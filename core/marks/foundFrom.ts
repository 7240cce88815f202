import { readKeys } from "#core/marks/dismissal";
import type { Anchor, Mark } from "#core/marks/kind";
import { isPrice } from "#core/marks/price";
import { isInstant } from "#core/time/dates";

/**
 * What a mark was taken over from, when the machine offered it: its keys, the machine's own anchors, and the rungs that
 * showed it.
 */
export interface FoundFrom {
  keys: string[];
  anchors: Anchor[];
  lineage: { rung: string; name: string }[];
}

/** The same from untrusted data; `undefined` when it cannot be read. */
export function readFoundFrom(raw: unknown): FoundFrom | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const { keys, anchors, lineage } = raw as Record<string, unknown>;
  const read = readKeys(keys);
  const isAnchor = (one: unknown): one is Anchor =>
    typeof one === "object" && one !== null && isInstant((one as Anchor).time) && isPrice((one as Anchor).price);
  const isLine = (one: unknown): one is { rung: string; name: string } => {
    const { rung, name } = (one ?? {}) as Record<string, unknown>;
    return typeof rung === "string" && rung.length <= 10 && typeof name === "string" && name.length <= 120;
  };
  if (!read) return undefined;
  if (!Array.isArray(anchors) || anchors.length > 8 || !anchors.every(isAnchor)) return undefined;
  if (!Array.isArray(lineage) || lineage.length > 40 || !lineage.every(isLine)) return undefined;
  return {
    keys: read,
    anchors: anchors.map(({ time, price }) => ({ time, price })),
    lineage: lineage.map(({ rung, name }) => ({ rung, name })),
  };
}

/** The machine's prices of each anchor that the analyst has moved since; empty when nothing was moved. */
export function movedAnchors({
  anchors,
  found,
}: Pick<Mark, "anchors" | "found">): { index: number; machine: number; own: number }[] {
  if (!found) return [];
  return found.anchors.flatMap(({ price }, index) => {
    const own = anchors.at(index)?.price;
    return own === undefined || own === price ? [] : [{ index, machine: price, own }];
  });
}
