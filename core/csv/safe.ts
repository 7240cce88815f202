/**
 * Text as cells that no spreadsheet takes for a formula. A cell that begins like one gets an apostrophe in front
 * (common practice against formula injection, no source); so does one that begins with an apostrophe, so that
 * `openCell` gives back exactly what `safeCell` was given. Numbers are written as they are and not guarded.
 */
const RISKY = /^[=+\-@\t\r\n'\uff1d\uff0b\uff0d\uff20]/;

export function safeCell(text: string): string {
  return RISKY.test(text) ? `'${text}` : text;
}

export function openCell(cell: string): string {
  return cell.startsWith("'") && RISKY.test(cell.slice(1)) ? cell.slice(1) : cell;
}
