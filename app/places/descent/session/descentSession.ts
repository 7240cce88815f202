import type { ColumnRules } from "#core/columns/columns";
import type { Mark, MarketFacts } from "#core/marks/kind";
import type { View } from "../../../../chart/scale.ts";
import { LinkedCursor } from "../../../canvas/linkedCursor.ts";
import type { PaneView } from "../charts/Pane.tsx";
import type { Building } from "../scenarios/Scenarios.tsx";
import { CommandRegistry } from "./commandRegistry.ts";

/** What is opened over the desk. */
export type Open = "date" | "shown" | "copy" | "bearing" | "alert" | "study" | undefined;

/** How the charts are looked at. */
export interface Look {
  log: boolean;
  /** Counts the wishes to fit prices. */
  fits: number;
  goTo?: { time: number } | undefined;
  /** Columns in place of bars, and how they are made. */
  columns?: ColumnRules | undefined;
  /** The moment that is held on every chart. */
  moment?: number | undefined;
}

export interface SessionState {
  /** Ids of the marks that are chosen. */
  selected: readonly string[];
  dragged: Mark | undefined;
  open: Open;
  /** Whether the table of levels is open, and the Sheet folded away. */
  table: boolean;
  folded: boolean;
  /** The scenario that is written, and the one that is drawn. */
  building: Building | undefined;
  shownScenario: string | undefined;
  /** The price on a chart that an alert is set at. */
  alertAt: { market: MarketFacts; rung: string; price: number } | undefined;
  /** What was done elsewhere, such as marks copied to another market. */
  said: string | undefined;
  look: Look;
  /** What each chart has on it, by its place. */
  views: ReadonlyMap<number, PaneView>;
}

const BEGINNING: SessionState = {
  selected: [],
  dragged: undefined,
  open: undefined,
  table: false,
  folded: false,
  building: undefined,
  shownScenario: undefined,
  alertAt: undefined,
  said: undefined,
  look: { log: false, fits: 0 },
  views: new Map(),
};

/**
 * A visit to a market's workspace: what is chosen, opened and looked at. Parts of the page read of it what they show.
 */
export class DescentSession {
  readonly cursor = new LinkedCursor();
  readonly commands = new CommandRegistry();
  private stands: View | undefined;
  private state = BEGINNING;
  private readonly listeners = new Set<() => void>();

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  get = (): SessionState => this.state;

  set(change: Partial<SessionState>): void {
    this.state = { ...this.state, ...change };
    this.listeners.forEach((listener) => listener());
  }

  /** Where the active chart last said it stands; read when a file of it is asked for, drawn by nobody. */
  get seen(): View | undefined {
    return this.stands;
  }

  /** The active chart says where it stands. */
  see(view: View): void {
    this.stands = view;
  }

  /** Chooses marks; added to those that are chosen, one that was among them is taken away. */
  select(ids: readonly string[], add = false): void {
    const { selected } = this.state;
    this.set({
      selected: add
        ? [...selected.filter((id) => !ids.includes(id)), ...ids.filter((id) => !selected.includes(id))]
        : ids,
    });
  }

  look(change: Partial<Look>): void {
    this.set({ look: { ...this.state.look, ...change } });
  }

  toggle(what: Open): void {
    this.set({ open: this.state.open === what ? undefined : what });
  }

  viewed(pane: number, view: PaneView): void {
    this.set({ views: new Map(this.state.views).set(pane, view) });
  }
}
