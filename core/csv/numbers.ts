/**
 * How the numbers of a column are written: the decimal mark, and what sets thousands apart. Both are decided over the
 * whole column: "38,250" alone may be 38250 or 38.25, and beside "1,234,567" or "38,25" it is one of them.
 */
export interface NumberFormat {
  decimal: "." | ",";
  thousands: "" | "." | "," | " " | "'";
}

export interface RecognisedNumbers extends NumberFormat {
  /** Every number could as well be read the other way; somebody has to say. */
  ambiguous: boolean;
}

type Mark = "." | ",";
const other = (mark: Mark): Mark => (mark === "." ? "," : ".");

/** Signs of money before a number, blanks of every kind within one. */
const MONEY = /^[$\u20ac\u00a3\u00a5]\s*/;
const BLANKS = /[\s\u00a0\u202f\u2009]/g;
const APOSTROPHES = /['\u2019]/g;

const plainCell = (cell: string) => cell.trim().replace(MONEY, "").replace(BLANKS, " ").replace(APOSTROPHES, "'");

/** What the cells of a column say of each mark. */
interface Evidence {
  decimal: Set<Mark>;
  thousands: Set<NumberFormat["thousands"]>;
  /** Marks that stand once, with three digits behind: either. */
  either: Set<Mark>;
  /** Whether thousands are written without a mark somewhere. */
  unmarked: boolean;
}

function evidenceOf(cells: readonly string[]): Evidence {
  const found: Evidence = { decimal: new Set(), thousands: new Set(), either: new Set(), unmarked: false };
  for (const one of cells) {
    const cell = plainCell(one).replace(/^[-\u2212+]/, "");
    const group = /^\d{1,3}([ '])\d{3}(?:\1\d{3})*(?:([.,])\d*)?$/.exec(cell);
    if (group) {
      found.thousands.add(group[1] as " " | "'");
      if (group[2]) found.decimal.add(group[2] as Mark);
      continue;
    }
    const marks = cell.match(/[.,]/g) as Mark[] | null;
    if (!marks) found.unmarked ||= /^\d{4,}$/.test(cell);
    else if (new Set(marks).size === 2) {
      const last = marks[marks.length - 1];
      found.decimal.add(last);
      found.thousands.add(other(last));
    } else if (marks.length > 1) found.thousands.add(marks[0]);
    else if (/^[1-9]\d{0,2}[.,]\d{3}$/.test(cell)) found.either.add(marks[0]);
    else if (/^\d*[.,]\d*$/.test(cell)) found.decimal.add(marks[0]);
  }
  return found;
}

/**
 * How a column's numbers are written, or a sentence saying that they are written in two ways. Where nothing tells, a
 * point is the decimal mark and a comma sets thousands apart, and `ambiguous` says that it is a guess.
 */
export function recogniseNumbers(cells: readonly string[]): RecognisedNumbers | string {
  const { decimal, thousands, either, unmarked } = evidenceOf(cells);
  const twice = [...decimal].find((mark) => thousands.has(mark)) ?? (decimal.size > 1 ? "," : undefined);
  if (twice !== undefined || thousands.size > 1)
    return 'Numbers are written in two ways, as "1,234.5" and "1.234,5": write them in one.';
  const [mark] = decimal;
  const [group = ""] = thousands;
  const sure = (format: NumberFormat): RecognisedNumbers => ({ ...format, ambiguous: false });
  if (mark) {
    const open = group === "" && either.has(other(mark));
    return sure({ decimal: mark, thousands: open ? other(mark) : group });
  }
  if (group === "." || group === ",") return sure({ decimal: other(group), thousands: group });
  const [doubtful] = either;
  if (!doubtful || either.size > 1) return sure({ decimal: ".", thousands: either.size > 1 ? "," : group });
  // Who writes 1234 without a mark does not write 1,234 with one.
  if (group !== "" || unmarked) return sure({ decimal: doubtful, thousands: group });
  return { ...(doubtful === "." ? POINT : COMMAS), ambiguous: true };
}

/** The two ways in which "38,250" can be read, and a plain point. */
const POINT: NumberFormat = { decimal: ".", thousands: "" };
const COMMAS: NumberFormat = { decimal: ".", thousands: "," };

/** A format as somebody says it for numbers that can be read both ways: with a decimal mark, or with thousands. */
export function saidFormat(guess: NumberFormat, said: "decimals" | "thousands"): NumberFormat {
  const mark: Mark = guess.thousands === "," || guess.decimal === "," ? "," : ".";
  return said === "decimals" ? { decimal: mark, thousands: "" } : { decimal: other(mark), thousands: mark };
}

const PLAIN_NUMBER = /^[-\u2212+]?(\d+\.?\d*|\.\d+)(e[-+]?\d{1,2})?$/i;
const GROUPED: Record<Exclude<NumberFormat["thousands"], "">, RegExp> = {
  ".": /^[-\u2212+]?\d{1,3}(\.\d{3})+(,\d*)?$/,
  ",": /^[-\u2212+]?\d{1,3}(,\d{3})+(\.\d*)?$/,
  " ": /^[-\u2212+]?\d{1,3}( \d{3})+([.,]\d*)?$/,
  "'": /^[-\u2212+]?\d{1,3}('\d{3})+([.,]\d*)?$/,
};

/** A number as its column writes them; NaN for anything else ("=1+1", "1,23,4", "1 2" all are). */
export function readNumber(cell: string, { decimal, thousands }: NumberFormat): number {
  if (decimal === "." && isPlain(cell)) return Number(cell);
  if (cell.length > 40) return NaN;
  let text = plainCell(cell);
  if (text.length > 32) return NaN;
  if (thousands !== "" && text.includes(thousands)) {
    if (!GROUPED[thousands].test(text)) return NaN;
    text = text.split(thousands).join("");
  }
  const point = decimal === "," ? text.replace(",", ".") : text;
  return PLAIN_NUMBER.test(point) && !(decimal === "," && text.includes("."))
    ? Number(point.replace("\u2212", "-"))
    : NaN;
}

/** Digits with at most one point among them: what nearly every cell is, told without a pattern. */
function isPlain(cell: string): boolean {
  if (cell.length === 0 || cell.length > 32) return false;
  let points = 0;
  for (let i = 0; i < cell.length; i++) {
    const code = cell.charCodeAt(i);
    if (code === 46) points++;
    else if (code < 48 || code > 57) return false;
  }
  return points === 0 || (points === 1 && cell.length > 1);
}

/** What a column of volumes writes where nothing is known. */
const UNKNOWN = /^(|-+|\u2013|\u2014|\.|n\/?a\.?|nan|null|none)$/i;
const SCALES: Record<string, number> = { k: 1e3, m: 1e6, b: 1e9 };

/**
 * How a column of volumes is written: by its own cells; where these can be read both ways, by the prices beside them.
 */
export function recogniseVolumes(cells: readonly string[], prices: NumberFormat): NumberFormat {
  const known = cells.map((cell) => cell.trim().replace(/[kmb]$/i, "")).filter((cell) => !UNKNOWN.test(cell));
  const found = recogniseNumbers(known);
  if (typeof found === "string") return prices;
  if (!found.ambiguous) return found;
  return found.thousands === prices.decimal || found.decimal !== prices.decimal
    ? { decimal: prices.decimal, thousands: other(prices.decimal) }
    : found;
}

/** A volume: 0 where none is known ("N/A", "-", nothing); "1.2M" is 1200000; NaN for anything that is no number. */
export function readVolume(cell: string, format: NumberFormat): number {
  const text = cell.trim();
  const plain = readNumber(text, format);
  if (!Number.isNaN(plain)) return plain;
  if (UNKNOWN.test(text)) return 0;
  const scale = SCALES[text.slice(-1).toLowerCase()];
  return scale === undefined ? NaN : readNumber(text.slice(0, -1), format) * scale;
}
