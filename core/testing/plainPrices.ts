import { closesOf, labelsOf, type ToldBar } from "#core/testing/plainTold";

/** A price as the second evaluator knows it, in ticks; minutes name a rung, times are minutes. */
export type PlainPrice = number | PlainLine | PlainPrevious | PlainBind | PlainReward;

/** Through two points, straight over the bars of a rung. */
export interface PlainLine {
  line: [{ time: number; price: number }, { time: number; price: number }];
  minutes: number;
}

export interface PlainPrevious {
  previous: number;
  of: "high" | "low" | "close";
}

export interface PlainBind {
  bind: "barHigh" | "barLow" | "sweptExtreme" | "level";
  step: number;
  ticks: number;
}

export interface PlainReward {
  r: number;
}

/** What a step left when it was met. */
export interface PlainMet {
  barHigh: number;
  barLow: number;
  close: number;
  sweptExtreme?: number;
  level?: number;
}

/** A price on the told bar `i`, asked for at a label; `undefined` while it is not known. */
export function plainPrice(
  price: PlainPrice,
  told: readonly ToldBar[],
  i: number,
  label: number,
  met: readonly PlainMet[],
  sign: 1 | -1,
): number | undefined {
  if (typeof price === "number") return price;
  if ("r" in price) return undefined;
  if ("bind" in price) {
    const left = met[price.step - 1]?.[price.bind];
    return left === undefined ? undefined : left + sign * price.ticks;
  }
  const known = told.slice(0, i + 1);
  if ("previous" in price) return closesOf(known, price.previous).findLast((bar) => bar.known < i)?.[price.of];
  const labels = labelsOf(known, price.minutes);
  const [a, b] = price.line;
  const [at, first, second] = [label, a.time, b.time].map((time) =>
    time > told[i].label ? -1 : labels.findLastIndex((one) => one <= time),
  );
  if (at < 0 || first < 0 || second < 0 || first === second) return undefined;
  return a.price + ((b.price - a.price) * (at - first)) / (second - first);
}
