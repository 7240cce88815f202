import { priceText, percentText, rungText } from "#core/marks/wording";
import { asksAgain } from "#core/round/verdict";
import { isDue } from "#core/round/walk";
import type { BoardCell, BoardRow } from "../../../server/round/board.ts";
import type { SaidVerdict } from "../../../server/round/rounds.ts";

/** Clock time of an instant in UTC, with its day where that is another than `now`'s. */
export function clockText(at: number, now: number): string {
  const [date, time] = [new Date(at).toISOString().slice(0, 10), new Date(at).toISOString().slice(11, 16)];
  return date === new Date(now).toISOString().slice(0, 10) ? time : `${date.slice(8)}.${date.slice(5, 7)}. ${time}`;
}

/** What the board says of one cell, for those who hear it. */
export function cellText(row: BoardRow, cell: BoardCell | null): string {
  if (!cell) return "being read";
  if (cell.close === undefined) return "no bars";
  const near = row.standing?.near.find(({ rung }) => rung === cell.rung);
  const area = near && row.standing?.areas[near.area];
  return [
    cell.own
      ? `${cell.direction} by hand${cell.machine === cell.direction ? "" : `, the machine reads ${cell.machine}`}`
      : cell.direction,
    cell.shifted ? "new shift" : "",
    isDue(cell) ? (cell.lookedAt === undefined ? "not looked at yet" : "closed since the last look") : "",
    area ? `near the area ${priceText(area.bottom, row)} to ${priceText(area.top, row)}` : "",
    near?.candle ? `${near.candle} candle at it` : "",
    cell.shiftAt === undefined ? "" : `shifts beyond ${priceText(cell.shiftAt, row)}`,
  ]
    .filter(Boolean)
    .join("; ");
}

/** Distance to the nearest area: "3.2 %", with the side it lies on; "in it". */
export function toAreaText({ standing }: BoardRow): string {
  if (!standing?.around[0] || standing.price === undefined) return "";
  const { distance } = standing.around[0];
  if (distance === 0) return "in it";
  return `${distance > 0 ? "\u2191" : "\u2193"} ${percentText(Math.abs(distance / standing.price), 1)}`;
}

/** Share of the usual day's range that today has used. */
export function rangeText({ standing }: BoardRow): string {
  const range = standing?.range;
  return range && range.usual > 0 ? percentText(range.today / range.usual, 0) : "";
}

export function rangeShare({ standing }: BoardRow): number {
  const range = standing?.range;
  return range && range.usual > 0 ? range.today / range.usual : 0;
}

/** "plan, 4 h: back at 404"; and that it is to be asked again. */
export function verdictText(said: SaidVerdict, now: number): string {
  const { verdict, rung, remark, asksAt } = said;
  const again =
    asksAt === null ? "" : asksAgain(said, now) ? ", ask again" : `, if it closes so at ${clockText(asksAt, now)}`;
  return `${verdict}, ${rungText(rung)}${again}${remark ? `: ${remark}` : ""}`;
}

const ORDINALS = ["First", "Second", "Third", "Fourth", "Fifth", "Sixth", "Seventh", "Eighth", "Ninth", "Tenth"];

/** "Third round today". */
export function roundTitle(today: number, open: boolean): string {
  const n = open ? Math.max(1, today) : today + 1;
  return n <= ORDINALS.length ? `${ORDINALS[n - 1]} round today` : `Round ${n} today`;
}
