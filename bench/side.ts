import { sized } from "./size.ts";

/** Two ways of doing one thing, timed in turn within one run: only their ratio means anything on a noisy machine. */
export interface Side {
  name: string;
  ours: () => unknown;
  other: () => unknown;
  otherName: string;
  /** How many pairs are run. */
  pairs?: number;
}

export interface Ratio {
  name: string;
  otherName: string;
  ours: number;
  other: number;
  ratio: number;
}

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];

async function time(work: () => unknown): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** Medians of both in milliseconds and the median of the ratios pair by pair, after one pair that is not counted. */
export async function compare({ name, ours, other, otherName, pairs: asked = 7 }: Side): Promise<Ratio> {
  const pairs = sized(asked, 1);
  await ours();
  await other();
  const a: number[] = [];
  const b: number[] = [];
  const ratios: number[] = [];
  for (let i = 0; i < pairs; i++) {
    a.push(await time(ours));
    b.push(await time(other));
    ratios.push(a[i] / b[i]);
  }
  return { name, otherName, ratio: median(ratios), ours: median(a), other: median(b) };
}

export function ratioLine({ name, otherName, ours, other, ratio }: Ratio): string {
  return (
    `${name.padEnd(44)} ${ratio.toFixed(2).padStart(7)} x  ${otherName} (${ours.toFixed(1)} ms against ` +
    `${other.toFixed(1)} ms)`
  );
}
