/** Bars of a page: 197 kB. Pages are counted from the first bar of a series, so that new bars move none. */
export const PAGE = 4096;

/** What the head of a page of bars says of it. */
export interface BarPageHead {
  /** Index of its first bar in the whole series. */
  start: number;
  /** Data revision of the market, and the history it was closed under: both change when the bars do. */
  revision: number;
  history: number;
}

const NAMES: Readonly<Record<keyof BarPageHead, string>> = {
  start: "X-Start",
  revision: "X-Revision",
  history: "X-History",
};
const FIELDS = Object.keys(NAMES) as (keyof BarPageHead)[];

export function barPageHeaders(head: BarPageHead): Record<string, string> {
  return Object.fromEntries(FIELDS.map((field) => [NAMES[field], String(head[field])]));
}

/** Throws a RangeError when a header is missing or no whole number from 0 on: it is no page of ours. */
export function readBarPageHead(headers: Headers): BarPageHead {
  const read = (field: keyof BarPageHead): number => {
    const text = headers.get(NAMES[field]);
    if (text === null || !/^\d{1,15}$/.test(text)) throw new RangeError(`The bars came without "${NAMES[field]}".`);
    return Number(text);
  };
  return { start: read("start"), revision: read("revision"), history: read("history") };
}
