import { useEffect, useRef, useState } from "react";
import type { Shown } from "#core/marks/shown";
import type { RungSet } from "#core/time/rungs";
import type { ChartLayout } from "../../../../server/desk/layout.ts";
import { postJson } from "../../../parts/post.ts";

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

export const MOST = 6;

export interface State {
  panes: readonly PanePlace[];
  shown: Shown;
  active: number;
  /** The chart whose rung the page's address names; the rung it named last. */
  lead: number;
  named: string;
  /** Rungs the address was asked to name and does not yet: keys may be quicker than it. */
  asked: readonly string[];
}

/** Charts side by side. The address names the rung of one of them, so that it can be linked to; the others are kept. */
export function usePanes(layout: ChartLayout, rung: string, set: RungSet, goTo: (rung: string) => void): Panes {
  const [held, setState] = useState<State>(() => begin(layout, rung));
  // The address may change by a link or by going back, too.
  const state = held.named === rung ? held : renamed(held, rung);
  if (state !== held) setState(state);
  const { panes, active, shown } = state;
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
  /** Takes other charts, one of which is worked on; if it is of the open market, the address names its rung. */
  const change = (now: readonly PanePlace[], next: number) => {
    const own = now[next].market === "" ? next : now.findIndex(({ market }) => market === "");
    const named = state.asked.at(-1) ?? rung;
    const moves = own >= 0 && now[own].rung !== named;
    setState({
      ...state,
      panes: now,
      active: next,
      lead: own,
      asked: moves ? [...state.asked, now[own].rung] : state.asked,
    });
    if (moves) goTo(now[own].rung);
  };
  return {
    panes,
    active,
    shown,
    activate: (pane) => pane !== active && change(panes, pane),
    toRung: (next) =>
      change(
        panes.map((pane, i) => (i === active ? { ...pane, rung: next } : pane)),
        active,
      ),
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
      if (now.length > 0 && now.some(({ market }) => market === ""))
        change(now, Math.min(pane < active ? active - 1 : active, now.length - 1));
    },
    show: (wanted) => setState({ ...state, shown: wanted }),
  };
}

/** The address names another rung: one that was asked for here, or one that the leading chart is put to. */
export function renamed(state: State, rung: string): State {
  const at = state.asked.indexOf(rung);
  if (at >= 0) return { ...state, named: rung, asked: state.asked.slice(at + 1) };
  return { ...state, named: rung, panes: state.panes.map((pane, i) => (i === state.lead ? { ...pane, rung } : pane)) };
}

/**
 * The chart of the rung that is asked for is worked on; if there is none, the first of the open market is put there.
 */
export function begin(layout: ChartLayout, rung: string): State {
  const kept = layout.panes.map((pane, id) => ({ id, ...pane }));
  const home = kept.findIndex(({ market }) => market === "");
  const panes = home >= 0 ? kept : [{ id: kept.length, market: "", rung }, ...kept].slice(0, MOST);
  const own = panes.findIndex((pane) => pane.market === "" && pane.rung === rung);
  const lead = own >= 0 ? own : Math.max(0, home);
  return {
    panes: panes.map((pane, i) => (i === lead ? { ...pane, rung } : pane)),
    shown: layout.shown,
    active: lead,
    lead,
    named: rung,
    asked: [],
  };
}
