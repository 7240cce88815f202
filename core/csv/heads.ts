/** What the columns of a file of bars are called, in small letters, in the languages files come in. */
const NAMES = {
  time: [
    ...["time", "date", "datetime", "date/time", "timestamp", "date time", "day", "gmt time", "utc time", "local time"],
    ...["datum", "zeit", "fecha", "data", "jour"],
  ],
  clock: ["clock", "hour", "time of day", "time", "uhrzeit", "hora", "heure", "ora"],
  open: ["open", "o", "opening", "er\u00f6ffnung", "erster", "apertura", "ouverture", "abertura"],
  high: ["high", "h", "max", "hoch", "h\u00f6chst", "m\u00e1ximo", "maximo", "plus haut", "massimo", "m\u00e1xima"],
  low: ["low", "l", "min", "tief", "tiefst", "m\u00ednimo", "minimo", "plus bas", "m\u00ednima"],
  close: [
    ...["close", "c", "last", "price", "close/last", "closing", "settle", "schluss", "schlusskurs", "letzter"],
    ...["cierre", "\u00faltimo", "ultimo", "cl\u00f4ture", "dernier", "chiusura", "fechamento"],
  ],
  volume: ["volume", "v", "vol", "vol.", "volumen", "volumes", "umsatz"],
  adjusted: ["adj close", "adj. close", "adjusted close", "adj_close", "adjclose", "close adj", "close_adj"],
  symbol: ["symbol", "ticker", "instrument", "isin", "symbole", "s\u00edmbolo", "simbolo"],
} as const;

/** Heads that say that a clock may stand in a column of its own. */
const DATES = new Set(["date", "datum", "fecha", "data", "jour", "day"]);

export type ColumnName = keyof typeof NAMES;

/** Columns of a file by their number from 0; -1 of one that no head names. */
export type Columns = Record<ColumnName, number>;

export function findColumns(header: readonly string[]): Columns {
  const heads = header.map((cell) =>
    cell
      .trim()
      .toLowerCase()
      .replace(/^[<"']|[>"']$/g, ""),
  );
  const find = (name: ColumnName, not = -1) =>
    heads.findIndex((head, i) => i !== not && (NAMES[name] as readonly string[]).includes(head));
  const date = heads.findIndex((head) => DATES.has(head));
  const time = date >= 0 ? date : find("time");
  const [open, high, low, close] = [find("open"), find("high"), find("low"), find("close")];
  return {
    time,
    clock: date >= 0 ? find("clock", time) : -1,
    open,
    high,
    low,
    close,
    volume: find("volume"),
    adjusted: find("adjusted"),
    symbol: find("symbol"),
  };
}

export const COLUMN_NAMES = Object.keys(NAMES) as ColumnName[];
/** Those without which there are no bars. */
const NEEDED = ["time", "open", "high", "low", "close"] as const;

/** What no column was found for, or said to be, in words; "" where nothing is missing. */
export function missingColumns(columns: Columns): string {
  const words = { time: "date or time", open: "open", high: "high", low: "low", close: "close" };
  return NEEDED.filter((name) => columns[name] < 0)
    .map((name) => words[name])
    .join(", ");
}

/** Columns as they are said in an address, counted from 1: "time:1,open:3"; `undefined` of a text that says none. */
export function readColumns(text: string): Columns | undefined {
  const columns = Object.fromEntries(COLUMN_NAMES.map((name) => [name, -1])) as Columns;
  for (const part of text.split(",")) {
    const [, name, number] = /^\s*([a-z]+)\s*:\s*([1-9]\d{0,2})\s*$/.exec(part) ?? [];
    const known = COLUMN_NAMES.find((one) => one === name);
    if (!known || columns[known] >= 0) return undefined;
    columns[known] = Number(number) - 1;
  }
  const said = Object.values(columns).filter((column) => column >= 0);
  return new Set(said).size === said.length ? columns : undefined;
}

/** The same columns as a text that is read back to them. */
export function columnsText(columns: Columns): string {
  return COLUMN_NAMES.filter((name) => columns[name] >= 0)
    .map((name) => `${name}:${columns[name] + 1}`)
    .join(",");
}
