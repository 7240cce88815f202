import { useState } from "react";
import { kindOf } from "#core/marks/registry";
import type { Anchor } from "#core/marks/kind";
import { mayEndHere, type Placing } from "./kinds.ts";

export interface Placer {
  /** The mark that is being placed. */
  placing: Placing | undefined;
  /** Points of the ruler: none yet, the first, or both. */
  ruler: readonly Anchor[] | undefined;
  /** Anchors set so far of whatever the next click goes on with. */
  anchors: Anchor[] | undefined;
  /** Begins to place a kind of mark; from the menu on a chart its first anchor is known. */
  begin(kind: string, first?: { anchor: Anchor; pane: number }): void;
  /** Takes the ruler up, or puts it away. */
  measure(): void;
  /** Sets an anchor on a chart; those of one mark are all set on the chart of the first. */
  add(anchor: Anchor, pane: number): void;
  /** Whether a chart takes the next anchor. */
  takes(pane: number): boolean;
  /** Ends or leaves what is being done; false when nothing was. */
  stop(): boolean;
}

/** Clicks on charts as anchors of a mark or of the ruler; `finish` gets a mark's once they are all there. */
export function usePlacing(finish: (kind: string, anchors: Anchor[], pane: number) => void): Placer {
  const [placing, setPlacing] = useState<Placing>();
  const [ruler, setRuler] = useState<Anchor[]>();
  const [place, setPlace] = useState<number>();
  const end = (kind: string, anchors: Anchor[], pane: number) => {
    setPlacing(undefined);
    finish(kind, anchors, pane);
  };
  const started = (ruler ?? placing?.anchors ?? []).length > 0;
  return {
    placing,
    ruler,
    anchors: ruler === undefined ? placing?.anchors : ruler.length < 2 ? ruler : undefined,
    begin(kind, first) {
      setRuler(undefined);
      if (first) setPlace(first.pane);
      if (first && kindOf({ kind }).anchors.most === 1) end(kind, [first.anchor], first.pane);
      else setPlacing({ kind, anchors: first ? [first.anchor] : [] });
    },
    measure() {
      setPlacing(undefined);
      setRuler(ruler ? undefined : []);
    },
    takes: (pane) => !started || pane === place,
    add(anchor, pane) {
      setPlace(pane);
      if (ruler) return setRuler([...ruler, anchor]);
      if (!placing) return;
      const anchors = [...placing.anchors, anchor];
      if (anchors.length >= kindOf(placing).anchors.most) end(placing.kind, anchors, pane);
      else setPlacing({ ...placing, anchors });
    },
    stop() {
      if (ruler) setRuler(undefined);
      else if (placing && mayEndHere(placing) && place !== undefined) end(placing.kind, placing.anchors, place);
      else if (placing) setPlacing(undefined);
      else return false;
      return true;
    },
  };
}
