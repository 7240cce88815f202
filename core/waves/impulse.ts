/**
 * Rules and projections of a five-wave impulse.
 * Sources: R. N. Elliott, The Wave Principle (1938); A. J. Frost and R. R. Prechter, Elliott Wave Principle (1978).
 */
export interface Pivot {
  time: number;
  price: number;
}

/** How lengths of waves are measured; the rules on plain prices are the same on both. */
export type LengthScale = "arithmetic" | "log";

export interface RuleLine {
  rule: string;
  holds: boolean;
  /** The figures that decided it, in price units (lengths on a log scale as ratios of prices). */
  numbers: Record<string, number>;
}

export interface Statement {
  statement: string;
  killPrice: number;
  /** The statement is dead once a wick is strictly beyond `killPrice` on this side. */
  killSide: "below" | "above";
  killRule: string;
}

export interface WaveTarget {
  wave: string;
  ratio: number;
  price: number;
  basis: string;
}

export interface ImpulseReading {
  direction: "up" | "down";
  /** Wave in progress, 1 to 5; 6 when all five are labelled. */
  wave: number;
  rules: RuleLine[];
  statements: Statement[];
  projections: WaveTarget[];
}

export const RULES = {
  order: "pivots follow each other in time",
  legs: "each wave moves against the one before",
  two: "wave 2 does not pass the start of wave 1",
  three: "wave 3 passes the end of wave 1",
  shortest: "wave 3 is not the shortest of 1, 3 and 5",
  four: "wave 4 does not enter the territory of wave 1",
  start: "a second wave does not pass the start of the first",
  ended: "wave 5 has ended at its label",
} as const;

/** A scale on which lengths are differences: prices themselves, or their logarithms. */
const scales = {
  arithmetic: { on: (price: number) => price, off: (value: number) => value },
  log: { on: Math.log, off: Math.exp },
};

/** Reads 1 to 6 pivots labelled 0 to 5. With one pivot nothing is asserted yet. Prices must be above 0 for log. */
export function readImpulse(pivots: readonly Pivot[], scale: LengthScale = "arithmetic"): ImpulseReading {
  const p = pivots.map((pivot) => pivot.price);
  const sign = p.length > 1 && p[1] < p[0] ? -1 : 1;
  return {
    direction: sign > 0 ? "up" : "down",
    wave: p.length,
    rules: checkRules(pivots, sign, scale),
    statements: p.length > 1 ? statementsOf(p, sign, scale) : [],
    projections: projectWave(p, scale),
  };
}

function checkRules(pivots: readonly Pivot[], sign: number, scale: LengthScale): RuleLine[] {
  const p = pivots.map((pivot) => pivot.price);
  const { on } = scales[scale];
  const length = (wave: number) => Math.abs(on(p[wave]) - on(p[wave - 1]));
  const lines: RuleLine[] = [];
  const line = (rule: string, holds: boolean, numbers: Record<string, number>) => lines.push({ rule, holds, numbers });
  const late = pivots.findIndex((pivot, i) => i > 0 && pivot.time <= pivots[i - 1].time);
  if (late > 0) line(RULES.order, false, { wave: late });
  const stray = p.findIndex((price, i) => i > 0 && (i % 2 === 1 ? sign : -sign) * (price - p[i - 1]) <= 0);
  if (stray > 0) line(RULES.legs, false, { wave: stray, from: p[stray - 1], to: p[stray] });
  if (p.length > 2) line(RULES.two, sign * (p[2] - p[0]) >= 0, { endOf2: p[2], startOf1: p[0] });
  if (p.length > 3) line(RULES.three, sign * (p[3] - p[1]) > 0, { endOf3: p[3], endOf1: p[1] });
  if (p.length > 4) line(RULES.four, sign * (p[4] - p[1]) >= 0, { endOf4: p[4], endOf1: p[1] });
  if (p.length > 5) {
    const [one, three, five] = [length(1), length(3), length(5)];
    line(RULES.shortest, three >= Math.min(one, five), { wave1: one, wave3: three, wave5: five });
  }
  return lines;
}

/** What the labels assert about the wave in progress, the tightest first, each with the price that ends it. */
function statementsOf(p: readonly number[], sign: number, scale: LengthScale): Statement[] {
  const behind = sign > 0 ? "below" : "above";
  const ahead = sign > 0 ? "above" : "below";
  const make = (statement: string, killPrice: number, killSide: "below" | "above", killRule: string): Statement => ({
    statement,
    killPrice,
    killSide,
    killRule,
  });
  switch (p.length) {
    case 2:
      return [make("wave 2 is running", p[0], behind, RULES.two)];
    case 3:
      return [
        make("wave 2 has ended, wave 3 is running", p[2], behind, RULES.start),
        make("wave 2 is still running", p[0], behind, RULES.two),
      ];
    case 4:
      return [make("wave 4 is running", p[1], behind, RULES.four)];
    case 5: {
      const out = [
        make("wave 4 has ended, wave 5 is running", p[4], behind, RULES.start),
        make("wave 4 is still running", p[1], behind, RULES.four),
      ];
      const cap = fifthCap(p, scale);
      if (cap !== undefined) out.push(make("wave 5 stays shorter than wave 3", cap, ahead, RULES.shortest));
      return out;
    }
    default:
      return [make("wave 5 has ended", p[5], ahead, RULES.ended)];
  }
}

/** When wave 3 is shorter than wave 1, the price past which wave 5 would make it the shortest. */
function fifthCap(p: readonly number[], scale: LengthScale): number | undefined {
  const { on, off } = scales[scale];
  const one = Math.abs(on(p[1]) - on(p[0]));
  const three = on(p[3]) - on(p[2]);
  return Math.abs(three) < one ? off(on(p[4]) + three) : undefined;
}

/** Targets of the wave in progress: ratios Frost and Prechter list for it, laid off on the chosen scale. */
function projectWave(p: readonly number[], scale: LengthScale): WaveTarget[] {
  const { on, off } = scales[scale];
  const v = p.map(on);
  const wave = String(p.length);
  const lay = (ratios: readonly number[], from: number, leg: number, basis: string): WaveTarget[] =>
    ratios.map((ratio) => ({ wave, ratio, price: off(from + ratio * leg), basis }));
  switch (p.length) {
    case 2:
      return lay([0.5, 0.618, 0.786], v[1], v[0] - v[1], "of wave 1, back from its end");
    case 3:
      return lay([1, 1.618, 2.618, 4.236], v[2], v[1] - v[0], "\u00d7 wave 1, from the end of 2");
    case 4:
      return lay([0.236, 0.382, 0.5], v[3], v[2] - v[3], "of wave 3, back from its end");
    case 5: {
      const whole = (share: number) => ({ wave, ratio: share, price: off(v[0] + (v[4] - v[0]) / share) });
      const cap = fifthCap(p, scale);
      return [
        ...lay([1, 1.618], v[4], v[1] - v[0], "\u00d7 wave 1, from the end of 4"),
        ...lay([0.382, 0.618, 1, 1.618], v[4], v[3] - v[0], "\u00d7 waves 1 to 3, from the end of 4"),
        ...[0.618, 0.382].map((share) => ({ ...whole(share), basis: "of the whole, divided by the end of 4" })),
        ...(cap === undefined ? [] : [{ wave, ratio: 1, price: cap, basis: "\u00d7 wave 3: the cap, for 3 is shorter than 1" }]),
      ];
    }
    default:
      return [];
  }
}
