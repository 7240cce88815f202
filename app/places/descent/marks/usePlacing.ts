import { useState } from "react";
import type { Anchor } from "#core/marks/kind";
import { mayEndHere, mostAnchors, type Placing } from "./kinds.ts";

export interface Placer {
  /** The mark that is being placed. */
  placing: Placing | undefined;
  /** Points of the ruler: none yet, the first, or both. */
  ruler: readonly Anchor[] | undefined;
  /** Anchors set so far of whatever the next click goes on with. */
  anchors: Anchor[] | undefined;
  /** Begins to place a kind of mark, or a part of one; from the menu on a chart its first anchor is known. */
  begin(what: Pick<Placing, "kind" | "wave" | "props">, first?: { anchor: Anchor; pane: number }): void;
  /** Takes the ruler up, or puts it away. */
  measure(): void;
  /** Sets an anchor on a chart; those of one mark are all set on the chart of the first. */
  add(anchor: Anchor, pane: number): void;
  /** Whether a chart takes the next anchor. */
  takes(pane: number): boolean;
  /** Ends or leaves what is being done; false when nothing was. */
  stop(): boolean;
}

/**
 * Clicks on charts as anchors of a mark or of the ruler; `finish` gets a mark's once they are all there. `snap` says
 * what point a click means.
 */
export function usePlacing(
  finish: (placed: Placing, pane: number) => void,
  snap: (placing: Placing, anchor: Anchor, pane: number) => Anchor = (_, anchor) => anchor,
): Placer {
  const [placing, setPlacing] = useState<Placing>();
  const [ruler, setRuler] = useState<Anchor[]>();
  const [place, setPlace] = useState<number>();
  const go = (next: Placing, pane: number) => {
    if (next.anchors.length < mostAnchors(next)) return setPlacing(next);
    setPlacing(undefined);
    finish(next, pane);
  };
  const grown = (before: Placing, anchor: Anchor, pane: number): Placing => ({
    ...before,
    anchors: [...before.anchors, snap(before, anchor, pane)],
  });
  const started = (ruler ?? placing?.anchors ?? []).length > 0;
  return {
    placing,
    ruler,
    anchors: ruler === undefined ? placing?.anchors : ruler.length < 2 ? ruler : undefined,
    begin(what, first) {
      setRuler(undefined);
      const fresh: Placing = { ...what, anchors: [] };
      if (!first) return setPlacing(fresh);
      setPlace(first.pane);
      go(grown(fresh, first.anchor, first.pane), first.pane);
    },
    measure() {
      setPlacing(undefined);
      setRuler(ruler ? undefined : []);
    },
    takes: (pane) => !started || pane === place,
    add(anchor, pane) {
      setPlace(pane);
      if (ruler) setRuler([...ruler, anchor]);
      else if (placing) go(grown(placing, anchor, pane), pane);
    },
    stop() {
      if (ruler) setRuler(undefined);
      else if (placing && mayEndHere(placing) && place !== undefined) {
        setPlacing(undefined);
        finish(placing, place);
      } else if (placing) setPlacing(undefined);
      else return false;
      return true;
    },
  };
}
