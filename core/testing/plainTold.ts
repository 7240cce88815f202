/** What is told of a market and the bars of its rungs, independent of `core/observe`: slow and obvious. */

export interface PlainBar {
  from: number;
  to: number;
  open: number;
  high: number;
  low: number;
  close: number;
}

/** Bars of one resolution, `minutes` long. */
export interface PlainLayer {
  minutes: number;
  bars: PlainBar[];
}

/** `label`: what it is called by, the beginning of its stretch of time whether or not it was told from there on. */
export type ToldBar = PlainBar & { minutes: number; label: number };

/**
 * Every bar that is told: a finer one from the first that opens with a coarser, a coarser one with no told finer
 * within.
 */
export function plainTold(layers: readonly PlainLayer[]): ToldBar[] {
  const sorted = [...layers].filter(({ bars }) => bars.length > 0).sort((a, b) => a.minutes - b.minutes);
  const told: ToldBar[] = [];
  sorted.forEach(({ minutes, bars }, i) => {
    const coarser = sorted[i + 1]?.minutes;
    const first = coarser === undefined ? 0 : bars.findIndex(({ from }) => from % coarser === 0);
    if (first < 0) return;
    for (const bar of bars.slice(first))
      if (!told.some(({ from }) => from >= bar.from && from < bar.to)) told.push({ ...bar, minutes, label: bar.from });
  });
  return told.sort((a, b) => a.from - b.from);
}

type RungBar = PlainBar & { known: number; label: number };

/** Labels of a rung's bars, the one that is being made included. */
export function labelsOf(told: readonly ToldBar[], minutes: number): number[] {
  return [...new Set(told.map((bar) => (bar.minutes >= minutes ? bar.from : bar.from - (bar.from % minutes))))];
}

/** Bars of a rung with the index of the told bar they are known with. */
export function closesOf(told: readonly ToldBar[], minutes: number): RungBar[] {
  const out: RungBar[] = [];
  let group: ToldBar[] = [];
  const put = (known: number) => {
    if (group.length === 0) return;
    const [high, low] = [Math.max(...group.map((bar) => bar.high)), Math.min(...group.map((bar) => bar.low))];
    const last = group[group.length - 1];
    const [{ from, open }] = group;
    out.push({ from, to: last.to, open, high, low, close: last.close, known, label: from - (from % minutes) });
    group = [];
  };
  told.forEach((bar, i) => {
    if (bar.minutes >= minutes) {
      put(i);
      out.push({ ...bar, known: i });
      return;
    }
    if (group.length > 0 && Math.floor(group[0].from / minutes) !== Math.floor(bar.from / minutes)) put(i);
    group.push(bar);
    if (bar.to % minutes === 0) put(i);
  });
  return out;
}
