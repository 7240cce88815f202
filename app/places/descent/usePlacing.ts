import { useState } from "react";
import { kindOf } from "#core/marks/registry";
import type { Anchor } from "#core/marks/kind";
import { mayEndHere, type Placing } from "./kinds.ts";

interface Placer {
  /** The mark that is being placed. */
  placing: Placing | undefined;
  /** Points of the ruler: none yet, the first, or both. */
  ruler: readonly Anchor[] | undefined;
  /** Anchors set so far of whatever the next click goes on with. */
  anchors: Anchor[] | undefined;
  begin(kind: string): void;
  /** Takes the ruler up, or puts it away. */
  measure(): void;
  add(anchor: Anchor): void;
  /** Ends or leaves what is being done; false when nothing was. */
  stop(): boolean;
}

/** Clicks on the chart as anchors of a mark or of the ruler; `finish` gets a mark's once they are all there. */
export function usePlacing(finish: (kind: string, anchors: Anchor[]) => void): Placer {
  const [placing, setPlacing] = useState<Placing>();
  const [ruler, setRuler] = useState<Anchor[]>();
  const end = (kind: string, anchors: Anchor[]) => {
    setPlacing(undefined);
    finish(kind, anchors);
  };
  return {
    placing,
    ruler,
    anchors: ruler === undefined ? placing?.anchors : ruler.length < 2 ? ruler : undefined,
    begin(kind) {
      setRuler(undefined);
      setPlacing({ kind, anchors: [] });
    },
    measure() {
      setPlacing(undefined);
      setRuler(ruler ? undefined : []);
    },
    add(anchor) {
      if (ruler) return setRuler([...ruler, anchor]);
      if (!placing) return;
      const anchors = [...placing.anchors, anchor];
      if (anchors.length >= kindOf(placing).anchors.most) end(placing.kind, anchors);
      else setPlacing({ ...placing, anchors });
    },
    stop() {
      if (ruler) setRuler(undefined);
      else if (placing && mayEndHere(placing)) end(placing.kind, placing.anchors);
      else if (placing) setPlacing(undefined);
      else return false;
      return true;
    },
  };
}
