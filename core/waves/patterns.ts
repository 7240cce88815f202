/**
 * The patterns of waves as data: how many waves each has, which pattern may stand where, and the rules of price its
 * pivots keep. The checker, the counting machine and the tests read this one table.
 *
 * Sources, from memory without page: R. N. Elliott, The Wave Principle (1938); A. J. Frost and R. R. Prechter, Elliott
 * Wave
 * Principle (1978), chapter 1 ("Essential design", "Corrective waves") and chapter 2 (the list of rules and
 * guidelines).
 * Where they leave a case open the table says "our reading".
 */
export type Pattern =
  | "impulse"
  | "leadingDiagonal"
  | "leadingDiagonalExpanding"
  | "endingDiagonal"
  | "endingDiagonalExpanding"
  | "zigzag"
  | "flat"
  | "triangle"
  | "triangleExpanding"
  | "doubleZigzag"
  | "tripleZigzag"
  | "doubleThree"
  | "tripleThree";

/**
 * A rule of price over the pivots 0 to n of a pattern, written for one that goes up (a falling one is mirrored).
 * - `beyond`: pivot `pivot` is further than pivot `than`, up (`way` 1) or down (-1) as the pattern goes; `strict` if
 * equal breaks it.
 * - `longer`: wave `wave` is longer than `factor` (1) times wave `than`; `strict` if equal breaks it.
 * - `shorter`: wave `wave` is shorter than wave `than`.
 * - `notShortest`: wave `wave` is not shorter than both of `among`.
 * - `lines`: the line over the ends of waves 1 and 3 and that over the ends of 2 and 4 meet ahead (`converge`), or
 * drift apart, in time.
 */
export type PriceRule = { id: string; text: string; source: string } & (
  | { kind: "beyond"; pivot: number; than: number; way: 1 | -1; strict: boolean; territory?: boolean }
  | { kind: "longer"; wave: number; than: number; factor: number; strict: boolean }
  | { kind: "shorter"; wave: number; than: number }
  | { kind: "notShortest"; wave: number; among: readonly [number, number] }
  | { kind: "lines"; converge: boolean }
);

export interface PatternFacts {
  title: string;
  /** Labels of its waves in order. */
  labels: readonly string[];
  motive: boolean;
  /** What may stand in each of its waves. */
  children: readonly (readonly Pattern[])[];
  rules: readonly PriceRule[];
}

const RULES_OF = "Frost and Prechter, chapter 2";
const ELLIOTT = "Elliott 1938; Frost and Prechter, chapter 1";

const ZIGZAGS: readonly Pattern[] = ["zigzag", "doubleZigzag", "tripleZigzag"];
const FLATS: readonly Pattern[] = ["flat"];
const COMBINATIONS: readonly Pattern[] = ["doubleThree", "tripleThree"];
const TRIANGLES: readonly Pattern[] = ["triangle", "triangleExpanding"];
const NO_TRIANGLE: readonly Pattern[] = [...ZIGZAGS, ...FLATS, ...COMBINATIONS];
const CORRECTIVE: readonly Pattern[] = [...NO_TRIANGLE, ...TRIANGLES];
const LEADING: readonly Pattern[] = ["leadingDiagonal", "leadingDiagonalExpanding"];
const ENDING: readonly Pattern[] = ["endingDiagonal", "endingDiagonalExpanding"];
const FIRST: readonly Pattern[] = ["impulse", ...LEADING];
const LAST: readonly Pattern[] = ["impulse", ...ENDING];
const FIVES = ["1", "2", "3", "4", "5"];
const LETTERS = ["A", "B", "C", "D", "E"];

const beyond = (
  id: string,
  text: string,
  pivot: number,
  than: number,
  way: 1 | -1,
  strict: boolean,
  source = RULES_OF,
): PriceRule => ({ id, text, source, kind: "beyond", pivot, than, way, strict });
const shorter = (wave: number, than: number): PriceRule => ({
  id: `${wave}shorter`,
  text: `wave ${wave} is shorter than wave ${than}: the lines converge`,
  source: RULES_OF,
  kind: "shorter",
  wave,
  than,
});
const longer = (wave: number, than: number): PriceRule => ({
  id: `${wave}longer`,
  text: `wave ${wave} is longer than wave ${than}: the lines diverge`,
  source: RULES_OF,
  kind: "longer",
  wave,
  than,
  factor: 1,
  strict: true,
});

const TWO = beyond("two", "wave 2 does not pass the start of wave 1", 2, 0, 1, false, ELLIOTT);
const THREE = beyond("three", "wave 3 passes the end of wave 1", 3, 1, 1, true, ELLIOTT);
const FIVE = beyond("five", "wave 5 passes the end of wave 3", 5, 3, 1, true);
const DIAGONAL: readonly PriceRule[] = [
  TWO,
  THREE,
  beyond("overlap", "wave 4 enters the territory of wave 1", 4, 1, -1, true),
  beyond("fourWithin", "wave 4 does not pass the end of wave 2", 4, 2, 1, false),
];
const lines = (converge: boolean): PriceRule => ({
  id: "lines",
  text: `the lines over the ends of 1 and 3 and of 2 and 4 ${converge ? "converge" : "diverge"} in time`,
  source: "Frost and Prechter, chapter 1",
  ...{ kind: "lines", converge },
});
const CONVERGING = [shorter(3, 1), shorter(4, 2), lines(true), shorter(5, 3)];
const DIVERGING = [longer(3, 1), longer(4, 2), lines(false), longer(5, 3)];

/**
 * Of Frost and Prechter's two readings of a leading diagonal (5-3-5-3-5 and 3-3-3-3-3) both are taken, wave by wave
 * (our reading).
 */
const LEADING_WAVES = [
  [...ZIGZAGS, "impulse"],
  ZIGZAGS,
  [...ZIGZAGS, "impulse"],
  ZIGZAGS,
  [...ZIGZAGS, "impulse"],
] as const;
const ENDING_WAVES = [ZIGZAGS, ZIGZAGS, ZIGZAGS, ZIGZAGS, ZIGZAGS] as const;
/** Wave by wave; that at most one is more than a zigzag or its multiples is a rule of all of them (`isSimple`). */
const TRIANGLE_WAVES = [[...ZIGZAGS, "flat"], [...ZIGZAGS, "flat"], NO_TRIANGLE, NO_TRIANGLE, CORRECTIVE] as const;

const X_SHORT = beyond("x", "wave X does not pass the start of wave W", 2, 0, 1, false);
const Y_PAST = beyond("y", "wave Y passes the end of wave W", 3, 1, 1, true);

export const PATTERNS: Readonly<Record<Pattern, PatternFacts>> = {
  impulse: {
    title: "impulse",
    labels: FIVES,
    motive: true,
    children: [FIRST, NO_TRIANGLE, ["impulse"], CORRECTIVE, LAST],
    rules: [
      TWO,
      THREE,
      {
        ...beyond("four", "wave 4 does not enter the territory of wave 1", 4, 1, 1, false, ELLIOTT),
        territory: true,
      } as PriceRule,
      {
        id: "shortest",
        text: "wave 3 is not the shortest of 1, 3 and 5",
        source: ELLIOTT,
        kind: "notShortest",
        wave: 3,
        among: [1, 5],
      },
    ],
  },
  leadingDiagonal: {
    title: "leading diagonal, contracting",
    labels: FIVES,
    motive: true,
    children: LEADING_WAVES,
    rules: [...DIAGONAL, FIVE, ...CONVERGING],
  },
  leadingDiagonalExpanding: {
    title: "leading diagonal, expanding",
    labels: FIVES,
    motive: true,
    children: LEADING_WAVES,
    rules: [...DIAGONAL, FIVE, ...DIVERGING],
  },
  endingDiagonal: {
    title: "ending diagonal, contracting",
    labels: FIVES,
    motive: true,
    children: ENDING_WAVES,
    rules: [...DIAGONAL, ...CONVERGING],
  },
  endingDiagonalExpanding: {
    title: "ending diagonal, expanding",
    labels: FIVES,
    motive: true,
    children: ENDING_WAVES,
    rules: [...DIAGONAL, FIVE, ...DIVERGING],
  },
  zigzag: {
    title: "zigzag",
    labels: LETTERS.slice(0, 3),
    motive: false,
    children: [FIRST, CORRECTIVE, LAST],
    rules: [beyond("b", "wave B stays short of the start of wave A", 2, 0, 1, true)],
  },
  flat: {
    title: "flat",
    labels: LETTERS.slice(0, 3),
    motive: false,
    children: [NO_TRIANGLE, NO_TRIANGLE, LAST],
    rules: [
      {
        id: "b90",
        text: "wave B takes back at least 90 % of wave A",
        source: `${RULES_OF} (later practice)`,
        kind: "longer",
        wave: 2,
        than: 1,
        factor: 0.9,
        strict: false,
      },
    ],
  },
  triangle: {
    title: "triangle",
    labels: LETTERS,
    motive: false,
    children: TRIANGLE_WAVES,
    rules: [
      beyond("c", "wave C stays within the end of wave A", 3, 1, -1, false),
      beyond("d", "wave D stays within the end of wave B", 4, 2, 1, false),
      beyond("e", "wave E stays within the end of wave C", 5, 3, -1, false),
    ],
  },
  triangleExpanding: {
    title: "expanding triangle",
    labels: LETTERS,
    motive: false,
    children: TRIANGLE_WAVES,
    rules: [
      beyond("cPast", "wave C passes the end of wave A", 3, 1, 1, true),
      beyond("dPast", "wave D passes the end of wave B", 4, 2, -1, true),
      beyond("ePast", "wave E passes the end of wave C", 5, 3, 1, true),
    ],
  },
  doubleZigzag: {
    title: "double zigzag",
    labels: ["W", "X", "Y"],
    motive: false,
    children: [["zigzag"], CORRECTIVE, ["zigzag"]],
    rules: [X_SHORT, Y_PAST],
  },
  tripleZigzag: {
    title: "triple zigzag",
    labels: ["W", "X", "Y", "X", "Z"],
    motive: false,
    // A triangle comes before the last wave alone (Frost and Prechter, chapter 1).
    children: [["zigzag"], NO_TRIANGLE, ["zigzag"], CORRECTIVE, ["zigzag"]],
    rules: [
      X_SHORT,
      Y_PAST,
      beyond("x2", "the second wave X does not pass the start of wave Y", 4, 2, 1, false),
      beyond("z", "wave Z passes the end of wave Y", 5, 3, 1, true),
    ],
  },
  // No rule of price but the turns themselves; a triangle stands last only (Frost and Prechter, chapter 1).
  doubleThree: {
    title: "double three",
    labels: ["W", "X", "Y"],
    motive: false,
    children: [["zigzag", "flat"], NO_TRIANGLE, ["zigzag", "flat", "triangle"]],
    rules: [],
  },
  tripleThree: {
    title: "triple three",
    labels: ["W", "X", "Y", "X", "Z"],
    motive: false,
    children: [["zigzag", "flat"], NO_TRIANGLE, ["zigzag", "flat"], NO_TRIANGLE, ["zigzag", "flat", "triangle"]],
    rules: [],
  },
};

export const PATTERN_NAMES = Object.keys(PATTERNS) as Pattern[];

/** The last pivot a rule speaks of: it is judged once that one is there. */
export function judgedAt(rule: PriceRule): number {
  switch (rule.kind) {
    case "beyond":
      return Math.max(rule.pivot, rule.than);
    case "notShortest":
      return Math.max(rule.wave, ...rule.among);
    case "lines":
      return 4;
    default:
      return Math.max(rule.wave, rule.than);
  }
}

/** Whether `wave` (from 0) of a pattern can only be a motive one: such a wave never passes its own start. */
export function isMotiveWave(pattern: Pattern, wave: number): boolean {
  return PATTERNS[pattern].children[wave].every((child) => PATTERNS[child].motive);
}

/** Whether a pattern is a zigzag or several: what all waves of a triangle but one are. */
export const isSimple = (pattern: Pattern): boolean => ZIGZAGS.includes(pattern);

/**
 * Rules of a combination that look at several of its waves at once: a double or triple three is not made of zigzags
 * alone (that is a double or triple zigzag), and holds at most one triangle, which stands last.
 */
export function areWavesTogether(pattern: Pattern, children: readonly (Pattern | undefined)[]): boolean {
  if (pattern !== "doubleThree" && pattern !== "tripleThree") return true;
  const actionary = children.filter((_, wave) => wave % 2 === 0);
  return actionary.length < (PATTERNS[pattern].labels.length + 1) / 2 || actionary.some((child) => child !== "zigzag");
}
