import { useEffect, useEffectEvent, useSyncExternalStore } from "react";

/** Something that can be done with a key: one list, for the listeners, the page of keys and the palette alike. */
export interface Command {
  id: string;
  name: string;
  /** Where it can be done. */
  where: "Everywhere" | "Descent" | "Walk" | "Round" | "Day plan";
  /**
   * A `KeyboardEvent.key` in lower case, "ctrl+" before it where that is held. Empty: found by its name until it is
   * given one.
   */
  key: string;
}

export const COMMANDS: readonly Command[] = [
  { id: "find", name: "Find a market, rung, mark, place or command", where: "Everywhere", key: "ctrl+k" },
  { id: "keys", name: "Show all keys", where: "Everywhere", key: "?" },
  { id: "level", name: "Place a level", where: "Descent", key: "l" },
  { id: "fittedLevel", name: "Place a fitted level", where: "Descent", key: "f" },
  { id: "trendLine", name: "Place a trend line", where: "Descent", key: "e" },
  { id: "channel", name: "Place a channel", where: "Descent", key: "h" },
  { id: "zone", name: "Place a zone", where: "Descent", key: "z" },
  { id: "count", name: "Label a wave count", where: "Descent", key: "w" },
  { id: "addPivot", name: "Label the next pivot of the selected count", where: "Descent", key: "6" },
  { id: "forkCount", name: "Fork the selected count: an alternate", where: "Descent", key: "7" },
  { id: "promoteCount", name: "Promote the selected count: the preferred one", where: "Descent", key: "8" },
  { id: "scenarioFromCount", name: "Make a scenario of the selected count", where: "Descent", key: "9" },
  { id: "countMachine", name: "Have the waves in view counted by machine", where: "Descent", key: "0" },
  { id: "writeScenario", name: "Write a scenario", where: "Descent", key: "/" },
  { id: "retracement", name: "Place a retracement", where: "Descent", key: "r" },
  { id: "projection", name: "Place a projection", where: "Descent", key: "'" },
  { id: "extension", name: "Place an extension", where: "Descent", key: "" },
  { id: "measuredMove", name: "Place a measured move", where: "Descent", key: "" },
  { id: "timeRatios", name: "Place time ratios", where: "Descent", key: "" },
  { id: "regressionChannel", name: "Place a regression channel", where: "Descent", key: "" },
  { id: "swingChannel", name: "Place a channel from three swings", where: "Descent", key: "" },
  { id: "speedLines", name: "Place speed lines", where: "Descent", key: "" },
  { id: "arcs", name: "Place arcs", where: "Descent", key: "" },
  { id: "cycle", name: "Mark a cycle", where: "Descent", key: "" },
  { id: "anchoredAverage", name: "Place an anchored average", where: "Descent", key: "" },
  { id: "divergence", name: "Mark a divergence", where: "Descent", key: "" },
  { id: "pattern", name: "Mark a pattern by its turns", where: "Descent", key: "" },
  { id: "study", name: "Put a study on the charts", where: "Descent", key: ";" },
  { id: "path", name: "Place a future path", where: "Descent", key: "p" },
  { id: "note", name: "Place a note", where: "Descent", key: "o" },
  { id: "leave", name: "End or leave what is being done", where: "Descent", key: "escape" },
  { id: "remove", name: "Remove the selected mark", where: "Descent", key: "delete" },
  { id: "lock", name: "Lock or unlock what is selected", where: "Descent", key: "k" },
  { id: "hide", name: "Hide or show what is selected", where: "Descent", key: "v" },
  { id: "copy", name: "Copy what is selected to another market", where: "Descent", key: "c" },
  { id: "bearing", name: "Set this rung's bearing", where: "Descent", key: "d" },
  { id: "undo", name: "Undo", where: "Descent", key: "ctrl+z" },
  { id: "redo", name: "Redo", where: "Descent", key: "ctrl+y" },
  { id: "nextRung", name: "Next rung of the walk", where: "Descent", key: "n" },
  { id: "rungDown", name: "One rung down", where: "Descent", key: "pagedown" },
  { id: "rungUp", name: "One rung up", where: "Descent", key: "pageup" },
  { id: "ruler", name: "Measure between two points", where: "Descent", key: "m" },
  { id: "log", name: "Log or linear axis", where: "Descent", key: "y" },
  { id: "columns", name: "Columns of boxes in place of bars, or bars again", where: "Descent", key: "\\" },
  { id: "goTo", name: "Go to a date", where: "Descent", key: "g" },
  { id: "table", name: "Table of levels, and this view as a file", where: "Descent", key: "t" },
  { id: "shown", name: "Choose what the charts show", where: "Descent", key: "u" },
  { id: "sheet", name: "Fold or open the Sheet", where: "Descent", key: "s" },
  { id: "addChart", name: "One more chart, a rung lower", where: "Descent", key: "a" },
  { id: "closeChart", name: "Close the chart that is worked on", where: "Descent", key: "x" },
  { id: "nextChart", name: "To the next chart", where: "Descent", key: "q" },
  { id: "guide", name: "Show the first steps again", where: "Descent", key: "i" },
  { id: "proposals", name: "Walk what the machine offers, on to the next", where: "Descent", key: "j" },
  { id: "acceptOffer", name: "Accept the proposal", where: "Descent", key: "1" },
  { id: "adjustOffer", name: "Accept the proposal and move its edges", where: "Descent", key: "2" },
  { id: "dismissOffer", name: "Dismiss the proposal", where: "Descent", key: "3" },
  { id: "acceptAbove", name: "Accept all proposals within the distance", where: "Descent", key: "4" },
  { id: "dismissBelow", name: "Dismiss all proposals further away", where: "Descent", key: "5" },
  { id: "walk", name: "Walk forward from a past moment", where: "Descent", key: "b" },
  { id: "stepOn", name: "One bar on", where: "Walk", key: "." },
  { id: "stepBack", name: "One bar back", where: "Walk", key: "," },
  { id: "lookNext", name: "Next rung: nothing here, or as it was said", where: "Round", key: "n" },
  { id: "lookBack", name: "One rung back", where: "Round", key: "b" },
  { id: "lookMarket", name: "On to the next market", where: "Round", key: "j" },
  { id: "sayWatch", name: "Watch this market, for this rung", where: "Round", key: "w" },
  { id: "sayPlan", name: "Plan this market, for this rung", where: "Round", key: "p" },
  { id: "sayNothing", name: "Take back: nothing here", where: "Round", key: "0" },
  { id: "askAgain", name: "Only if it closes like this: ask again after the close", where: "Round", key: "y" },
  { id: "remark", name: "Write a remark", where: "Round", key: "r" },
  { id: "quickRuler", name: "Reward to risk from here, long or short", where: "Round", key: "m" },
  { id: "setAlert", name: "Set an alert", where: "Round", key: "a" },
  { id: "toDescent", name: "Descend into this market", where: "Round", key: "enter" },
  { id: "toBoard", name: "Back to the board", where: "Round", key: "escape" },
  { id: "startWalk", name: "Walk the round", where: "Round", key: "g" },
  { id: "acceptFact", name: "Accept what is offered in the area", where: "Day plan", key: "1" },
  { id: "dismissFact", name: "Dismiss what is offered in the area", where: "Day plan", key: "3" },
  { id: "acceptAll", name: "Accept all that is shown", where: "Day plan", key: "4" },
  { id: "openArea", name: "Open or close the area", where: "Day plan", key: "o" },
  { id: "allAreas", name: "All areas within reach, or the few", where: "Day plan", key: "a" },
  { id: "takeBack", name: "Take the last answer back", where: "Day plan", key: "ctrl+z" },
];

/** Whether commands of two places are listened to on one page: there they cannot share a key. */
export function meet(a: Command["where"], b: Command["where"]): boolean {
  const pageOf = (where: Command["where"]) => (where === "Walk" ? "Descent" : where);
  return a === "Everywhere" || b === "Everywhere" || pageOf(a) === pageOf(b);
}

/** Keys an analyst has changed, by command; and whether single keys are listened to at all. */
export interface KeyChoice {
  changed: Record<string, string>;
  off: boolean;
}

const STORED = "compass-keys";
const NONE: KeyChoice = { changed: {}, off: false };
const listeners = new Set<() => void>();
let held: KeyChoice | undefined;

function read(): KeyChoice {
  if (held) return held;
  try {
    const { changed, off } = JSON.parse(localStorage.getItem(STORED) ?? "{}") as Partial<KeyChoice>;
    held = {
      changed: Object.fromEntries(Object.entries(changed ?? {}).filter(([, key]) => typeof key === "string")),
      off: off === true,
    };
  } catch {
    held = NONE;
  }
  return held;
}

export function chooseKeys(choice: KeyChoice): void {
  held = choice;
  try {
    localStorage.setItem(STORED, JSON.stringify(choice));
  } catch {
    // Kept for this page only where the browser stores nothing.
  }
  listeners.forEach((listener) => listener());
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export function useKeyChoice(): KeyChoice {
  return useSyncExternalStore(subscribe, read, () => NONE);
}

export function keyOf(id: string, { changed }: KeyChoice): string {
  return changed[id] ?? COMMANDS.find((command) => command.id === id)?.key ?? "";
}

/** A key event in the notation of the list. */
export function pressed(event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "shiftKey">): string {
  const key = event.key.toLowerCase();
  if (!event.ctrlKey && !event.metaKey) return key;
  return event.shiftKey && key === "z" ? "ctrl+y" : `ctrl+${key}`;
}

/** How a key is written on the page: "Ctrl K", "Page down". */
export function keyText(key: string): string {
  const names: Record<string, string> = {
    enter: "Enter",
    pagedown: "Page down",
    pageup: "Page up",
    escape: "Escape",
    delete: "Delete",
    " ": "Space",
  };
  const plain = key.replace("ctrl+", "");
  const name = names[plain] ?? (plain.length === 1 ? plain.toUpperCase() : plain);
  return key.startsWith("ctrl+") ? `Ctrl ${name}` : name;
}

const TYPING = "input, textarea, select, [contenteditable], [role=combobox], [role=listbox]";

/** What can be done, by the ids of commands; what cannot be done just now has no handler. */
export type Handlers = Readonly<Record<string, (() => void) | undefined>>;

/**
 * Runs a handler when its key is pressed outside text fields. Keys without Ctrl can be switched off altogether
 * (WCAG 2.2, 2.1.4), all but Escape, Delete and the page keys, which are no characters. Handlers that features add to
 * are read when a key is pressed.
 */
export function useCommands(handlers: Handlers | (() => Handlers)): void {
  const choice = useKeyChoice();
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (event.altKey) return;
    const key = pressed(event);
    if (choice.off && key.length === 1) return;
    const found = Object.entries(typeof handlers === "function" ? handlers() : handlers).find(
      ([id, handler]) => handler && (keyOf(id, choice) === key || (id === "remove" && key === "backspace")),
    );
    // While something is typed only finding is listened to: everything else is the field's.
    if (!found || (found[0] !== "find" && (event.target as HTMLElement).closest(TYPING))) return;
    event.preventDefault();
    found[1]?.();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey(event);
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
