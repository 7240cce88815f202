import { PATTERNS, type PatternName } from "#core/patterns/registry";
import type { PatternPoint, PatternShape } from "#core/patterns/shape";

export type Points = readonly (readonly [index: number, price: number])[];

/** Closes straight from turn to turn, so that none lies beyond a line through them. */
export function straight(points: Points): Float64Array {
  const close = new Float64Array(points[points.length - 1][0] + 1);
  points.forEach(([index, price], n) => {
    const [from, at] = n === 0 ? [0, price] : points[n - 1];
    for (let i = from; i <= index; i++) close[i] = at + ((price - at) * (i - from)) / Math.max(1, index - from);
  });
  return close;
}

/** The names of the rules that points break; `atr` 1 unless said. */
export function broken(name: PatternName, points: Points, { atr = 1, close = straight(points) } = {}): string[] {
  const shape: PatternShape = PATTERNS[name];
  const read = points.map(([index, price]): PatternPoint => ({ index, price }));
  const { rules } = shape.judge(read, { atr, bars: { close }, sign: 1, measured: new Map() });
  return rules.filter(({ holds }) => !holds).map(({ rule }) => rule);
}

/** Points with some of them put elsewhere. */
export const moved = (points: Points, changes: Record<number, readonly [number, number]>): Points =>
  points.map((point, n) => changes[n] ?? point);

interface Case {
  good: Points;
  /** Rule by rule, points that break it and no other, and points at its edge that keep it. */
  bad: [rule: string, broken: Points, kept?: Points][];
}

// Forms from Edwards and Magee (1948) and Gartley (1935), from memory; shares are common practice, no source. Worked by
// hand on ATR 1.
const DOUBLE: Points = [
  [0, 110],
  [10, 100],
  [16, 104],
  [22, 100.4],
];
const TRIPLE: Points = [
  [0, 110],
  [10, 100],
  [14, 104],
  [18, 100.5],
  [22, 104.4],
  [26, 100],
];
const HEAD: Points = [
  [0, 112],
  [6, 104],
  [10, 108],
  [16, 100],
  [22, 108],
  [27, 103.5],
];
export const SYMMETRICAL: Points = [
  [0, 110],
  [5, 100],
  [10, 108],
  [15, 102],
  [20, 106],
];
const ASCENDING: Points = [
  [0, 110],
  [5, 100],
  [10, 110],
  [15, 104],
  [20, 110],
];
const WEDGE: Points = [
  [0, 110],
  [5, 101],
  [10, 106],
  [15, 99],
  [20, 102],
];
const RECTANGLE: Points = [
  [0, 110],
  [5, 100],
  [10, 110],
  [15, 100],
  [20, 110],
];
const CHANNEL: Points = [
  [0, 110],
  [5, 103],
  [10, 105],
  [15, 98],
  [20, 100],
];
const FLAG: Points = [
  [0, 100],
  [8, 110],
  [11, 107],
  [14, 109],
  [17, 106],
];
const PENNANT: Points = [
  [0, 100],
  [8, 110],
  [11, 106],
  [14, 109],
  [17, 107],
];
export const CUP: Points = [
  [0, 110],
  [15, 100],
  [30, 110],
  [34, 107],
];

export const CASES: Record<Exclude<PatternName, `fivePoints${string}`>, Case> = {
  doubleBottom: {
    good: DOUBLE,
    bad: [
      ["height in ATR", moved(DOUBLE, { 2: [16, 102.9] }), moved(DOUBLE, { 2: [16, 103] })],
      ["lows apart, share of the height", moved(DOUBLE, { 3: [22, 100.9] }), moved(DOUBLE, { 3: [22, 100.8] })],
      ["bars from first to last low", moved(DOUBLE, { 2: [13, 104], 3: [17, 100] }), moved(DOUBLE, { 3: [18, 100] })],
      ["fall into it, share of the height", moved(DOUBLE, { 0: [0, 103.9] }), moved(DOUBLE, { 0: [0, 104] })],
    ],
  },
  tripleBottom: {
    good: TRIPLE,
    bad: [
      ["lows apart, share of the height", moved(TRIPLE, { 3: [18, 101] })],
      [
        "highs between apart, share of the height",
        moved(TRIPLE, { 2: [14, 102.5] }),
        moved(TRIPLE, { 2: [14, 102.7] }),
      ],
      ["fall into it, share of the height", moved(TRIPLE, { 0: [0, 104] })],
      [
        "height in ATR",
        [
          [0, 110],
          [10, 100],
          [14, 102.5],
          [18, 100],
          [22, 102.9],
          [26, 100],
        ],
      ],
      [
        "bars from first to last low",
        [
          [0, 110],
          [10, 100],
          [11, 104],
          [13, 100],
          [15, 104],
          [17, 100],
        ],
      ],
    ],
  },
  headAndShoulders: {
    good: HEAD,
    bad: [
      [
        "height of the head in ATR",
        [
          [0, 112],
          [6, 106.5],
          [10, 108],
          [16, 104.1],
          [22, 108],
          [27, 106.5],
        ],
      ],
      [
        "head beyond the shoulders, share of its height",
        moved(HEAD, { 1: [6, 101], 5: [27, 101] }),
        moved(HEAD, { 1: [6, 101.2], 5: [27, 101.2] }),
      ],
      ["left shoulder under the neckline, share of the height", moved(HEAD, { 1: [6, 106.5] })],
      ["right shoulder under the neckline, share of the height", moved(HEAD, { 5: [27, 106.5] })],
      ["shoulders apart, share of the height", moved(HEAD, { 1: [6, 106], 5: [27, 102.5] })],
      [
        "neckline's slope between its ends, share of the height",
        moved(HEAD, { 2: [10, 110.5], 4: [22, 106], 5: [27, 102] }),
      ],
      ["time right of the head to left of it", moved(HEAD, { 4: [18, 108], 5: [19, 103.5] })],
      ["fall into it, share of the height", moved(HEAD, { 0: [0, 107.9] }), moved(HEAD, { 0: [0, 108] })],
    ],
  },
  symmetricalTriangle: {
    good: SYMMETRICAL,
    bad: [
      [
        "upper line's rise, share of the width",
        [
          [0, 110],
          [5, 100],
          [10, 109.5],
          [15, 104],
          [20, 109],
        ],
      ],
      [
        "lower line's rise, share of the width",
        [
          [0, 110],
          [5, 100],
          [10, 108],
          [15, 100.5],
          [20, 106],
        ],
      ],
      ["middle turn from its line, share of the width", moved(SYMMETRICAL, { 2: [10, 106] })],
      [
        "bars from first to last turn",
        [
          [0, 110],
          [2, 100],
          [5, 108],
          [7, 102],
          [11, 106],
        ],
      ],
      ["bars of its shortest leg", moved(SYMMETRICAL, { 1: [1, 99.2] }), moved(SYMMETRICAL, { 1: [2, 99.4] })],
      [
        "width at its start in ATR",
        [
          [0, 102.4],
          [5, 100],
          [10, 102],
          [15, 100.5],
          [20, 101.6],
        ],
      ],
    ],
  },
  ascendingTriangle: {
    good: ASCENDING,
    bad: [
      [
        "level line's rise, share of the width",
        [
          [0, 110],
          [5, 100],
          [10, 109],
          [15, 104],
          [20, 108],
        ],
      ],
      ["other line's rise, share of the width", moved(ASCENDING, { 3: [15, 101] })],
    ],
  },
  wedge: {
    good: WEDGE,
    bad: [
      ["lower line's rise, share of the width", moved(WEDGE, { 3: [15, 100.9] })],
      ["width at its end, share of the start", moved(WEDGE, { 1: [5, 103], 3: [15, 97], 4: [20, 103] })],
    ],
  },
  rectangle: {
    good: RECTANGLE,
    bad: [
      [
        "upper line's rise, share of the width",
        [
          [0, 110],
          [5, 100],
          [10, 109],
          [15, 100],
          [20, 108],
        ],
      ],
      ["lower line's rise, share of the width", moved(RECTANGLE, { 3: [15, 102] })],
    ],
  },
  channelBreak: {
    good: CHANNEL,
    bad: [
      ["width at its end, share of the start", moved(CHANNEL, { 3: [15, 95] })],
      [
        "upper line's rise, share of the width",
        [
          [0, 110],
          [5, 99.25],
          [10, 109],
          [15, 97.75],
          [20, 108],
        ],
      ],
    ],
  },
  flag: {
    good: FLAG,
    bad: [
      [
        "pole in ATR",
        [
          [0, 106.1],
          [4, 110],
          [6, 109],
          [8, 109.8],
          [10, 108.8],
        ],
      ],
      [
        "pole in ATR a bar",
        [
          [0, 100],
          [26, 110],
          [29, 107],
          [32, 109],
          [35, 106],
        ],
      ],
      ["given back, share of the pole", moved(FLAG, { 2: [11, 106.5], 4: [17, 104.9] }), moved(FLAG, { 4: [17, 105] })],
      ["bars of the rest to bars of the pole", moved(FLAG, { 3: [25, 109], 4: [33, 106] })],
      ["slope of the rest's highs, share of the pole", moved(FLAG, { 3: [14, 110.5], 4: [17, 106.5] })],
      ["second swing of the rest to its first", moved(FLAG, { 3: [14, 108.9], 4: [17, 107] })],
      ["second low below the first, share of the rest", moved(FLAG, { 3: [14, 109.9], 4: [17, 107.2] })],
    ],
  },
  pennant: {
    good: PENNANT,
    bad: [
      ["second swing of the rest to its first", moved(PENNANT, { 3: [14, 109.5], 4: [17, 106.1] })],
      ["second low above the first, share of the rest", moved(PENNANT, { 3: [14, 108], 4: [17, 106] })],
    ],
  },
  cup: {
    good: CUP,
    bad: [
      ["rims apart, share of the depth", moved(CUP, { 2: [30, 108.4] }), moved(CUP, { 2: [30, 108.5] })],
      ["low between the rims, share of the time", moved(CUP, { 1: [8, 100] }), moved(CUP, { 1: [9, 100] })],
      ["handle, share of the depth", moved(CUP, { 3: [34, 105.9] }), moved(CUP, { 3: [34, 106] })],
      [
        "bars from rim to rim",
        [
          [0, 110],
          [9, 100],
          [19, 110],
          [22, 107],
        ],
        [
          [0, 110],
          [10, 100],
          [20, 110],
          [23, 107],
        ],
      ],
      [
        "depth in ATR",
        [
          [0, 103.9],
          [15, 100],
          [30, 103.9],
          [34, 103],
        ],
        [
          [0, 104],
          [15, 100],
          [30, 104],
          [34, 103],
        ],
      ],
    ],
  },
};
