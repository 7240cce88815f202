import { nameAt } from "#core/marks/count";
import type { CountProps } from "#core/marks/countProps";
import type { Mark } from "#core/marks/kind";
import type { MarkEvent } from "#core/marks/markEvent";
import { percentText, plainNumber } from "#core/marks/wording";

/** What happened to a mark, as a sentence of its history. */
export function sayEvent(mark: Mark, event: MarkEvent): string {
  switch (event.event) {
    case "touched":
      return `Touch ${event.touches}${event.line ? `, ${event.line} line` : deepText(event.deepest)}.`;
    case "left":
      return `Left again${deepText(event.deepest)}.`;
    case "spent":
      return `Spent after touch ${event.touches}${deepText(event.deepest)}.`;
    case "swept":
      return "Swept: a wick went beyond, the close came back.";
    case "broken":
      return `Closed ${event.side} it.`;
    case "taken":
      return `Taken: closed ${event.side} it.`;
    case "takenBack":
      return `Taken back: closed ${event.side} it.`;
    case "flipped":
      return "Respected from the other side.";
    case "retested":
      return "Retested and held.";
    case "filled":
      return "Filled: a wick reached its far edge.";
    case "undone":
      return "The whole leg was given back.";
    case "extended":
      return "Price passed the end of the leg.";
    case "shareReached":
      return `${percentText(event.ratio)} reached.`;
    case "inForce":
      return "In force from this close on.";
    case "lineMet":
      return `${percentText(event.ratio)} met, ${plainNumber(event.price)}.`;
    case "negated":
      return `Negated: price passed ${plainNumber(event.price)}.`;
    case "confirmed":
      return (
        `Confirmed: closed ${event.side} ${plainNumber(event.price)}` +
        `${event.target === undefined ? "" : `, target ${plainNumber(event.target)}`}.`
      );
    case "failed":
      return `Failed: closed beyond its stop, ${plainNumber(event.price)}.`;
    case "lapsed":
      return "Negated by time: nothing confirmed it.";
    case "negatedEarly":
      return "Negated: closed beyond its other side.";
    case "timeCame":
      return `${percentText(event.ratio)} of the time: bar ${event.bars}.`;
    case "due":
      return `The window of the next low begins, bar ${event.bars}.`;
    case "overdue":
      return `The window has passed without a new low marked, bar ${event.bars}.`;
    case "lineLeft":
      return `Closed beyond the ${percentText(event.ratio)}.`;
    case "turnReached":
      return `Turn ${event.turn} of ${event.of} reached.`;
    case "targetReached":
      return `Target ${event.wave}: ${event.ratio} ${event.of} reached.`;
    case "killed":
    case "innerKilled":
      return (
        `"${event.statement}"${nameAt(mark as unknown as Mark<CountProps>, event.waves)} died: ` +
        `price went ${event.side}.`
      );
  }
}

function deepText(deepest: number | undefined): string {
  return deepest === undefined ? "" : `, ${percentText(deepest, 0)} deep`;
}
