import { useEffect, useRef, useState } from "react";
import type { Shown } from "#core/marks/shown";
import type { RungSet } from "#core/time/rungs";
import type { ChartLayout } from "../../../server/desk/layout.ts";
import { postJson } from "../../parts/post.ts";

export interface PanePlace {
  /** Stays with the chart while others come and go. */
  id: number;
  /** Empty for the market that is open. */
  market: string;
  rung: string;
}

export interface Panes {
  panes: readonly PanePlace[];
  /** Index of the one that is worked on. */
  active: number;
  shown: Shown;
  activate(pane: number): void;
  /** Puts the active chart to another rung. */
  toRung(rung: string): void;
  /** Puts a chart to another market; to the one that is open with an empty name. */
  toMarket(pane: number, market: string): void;
  /** Opens one more chart beside the active one, a rung lower or on `rung`. */
  add(rung?: string): void;
  close(pane: number): void;
  show(shown: Shown): void;
}

const MOST = 6;

interface State {
  panes: readonly PanePlace[];
  shown: Shown;
  active: number;
  /** The chart whose rung the page's address names. */
  lead: number;
}

/** Charts side by side. The address names the rung of one of them, so that it can be linked to; the others are kept. */
export function usePanes(layout: ChartLayout, rung: string, set: RungSet, goTo: (rung: string) => void): Panes {
  const [state, setState] = useState<State>(() => begin(layout, rung));
  const { active, shown, lead } = state;
  const panes = state.panes.map((pane, i) => (i === lead ? { ...pane, market: "", rung } : pane));
  const first = useRef(true);
  const kept = JSON.stringify({ panes: panes.map(({ market, rung: at }) => ({ market, rung: at })), shown });

  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    const timer = setTimeout(() => void postJson("/layout", JSON.parse(kept) as object), 400);
    return () => clearTimeout(timer);
  }, [kept]);

  const lower = (from: string) => set.rungs[set.rungs.findIndex((one) => one.rung === from) + 1]?.rung ?? from;
  /** Makes a chart the active one; one of the open market takes the address over. */
  const change = (now: readonly PanePlace[], next: number) => {
    const own = now[next].market === "" ? next : now.findIndex(({ market }) => market === "");
    setState({ panes: now, shown, active: next, lead: own });
    if (own >= 0 && now[own].rung !== rung) goTo(now[own].rung);
  };
  return {
    panes,
    active,
    shown,
    activate: (pane) => pane !== active && change(panes, pane),
    toRung: (next) => (active === lead ? goTo(next) : change(panes.map((pane, i) => (i === active ? { ...pane, rung: next } : pane)), active)),
    toMarket: (pane, market) => {
      const now = panes.map((one, i) => (i === pane ? { ...one, market } : one));
      // The market that is open keeps a chart of its own.
      if (now.some((one) => one.market === "")) change(now, pane);
    },
    add: (at) => {
      if (panes.length >= MOST) return;
      const id = Math.max(...panes.map((pane) => pane.id)) + 1;
      const beside = { id, market: panes[active].market, rung: at ?? lower(panes[active].rung) };
      change([...panes.slice(0, active + 1), beside, ...panes.slice(active + 1)], active + 1);
    },
    close: (pane) => {
      const now = panes.filter((_, i) => i !== pane);
      if (now.length > 0 && now.some(({ market }) => market === "")) change(now, Math.min(pane < active ? active - 1 : active, now.length - 1));
    },
    show: (wanted) => setState({ ...state, panes, shown: wanted }),
  };
}

/** The chart of the rung that is asked for is the active one; without one the first of the open market is put there. */
function begin(layout: ChartLayout, rung: string): State {
  const { shown } = layout;
  const panes = layout.panes.map((pane, id) => ({ id, ...pane }));
  const own = panes.findIndex((pane) => pane.market === "" && pane.rung === rung);
  const lead = own >= 0 ? own : panes.findIndex(({ market }) => market === "");
  return lead >= 0 ? { panes, shown, active: lead, lead } : { panes: [{ id: panes.length, market: "", rung }, ...panes].slice(0, MOST), shown, active: 0, lead: 0 };
}
