import { areWavesTogether, isSimple, judgedAt, PATTERNS, type Pattern, type PriceRule } from "#core/waves/patterns";
import { allWaves, directionOf, isComplete, SCALES, type LengthScale, type Pivot, type Wave } from "#core/waves/wave";

export interface RuleOptions {
  /** How lengths are measured; rules on plain prices are the same on both. */
  scale: LengthScale;
  /** Share of wave 1 by which wave 4 may enter its territory, for leveraged markets; 0 to 0.5. */
  overlap: number;
}

export const STRICT: RuleOptions = { scale: "arithmetic", overlap: 0 };

/** One rule applied to one wave. */
export interface RuleLine {
  rule: string;
  holds: boolean;
  /** Prices and lengths that decided it, in price units (lengths on a log scale as differences of natural logs). */
  numbers: Record<string, number>;
  /** By how much it holds (above 0) or is broken (below 0), in the unit of `unit`; absent where nothing is measured. */
  margin?: number;
  unit?: "price" | "log";
  /** Pivot of the wave at which it is told. */
  pivot?: number;
  source: string;
}

const DAY = 86_400_000;

/** Slack of comparisons of lengths: sums of ticks as doubles differ in their last digits. Share of the longer one. */
const SAME = 1e-9;

const ORDER = "pivots follow each other in time";
const LEGS = "each wave moves against the one before";
const NET = "the whole goes the way of its first wave";
const OUR_READING = "by definition";

/**
 * The rules of one wave by its own pivots alone: order, turns, and the rules of price of its pattern as far as it has
 * come.
 */
export function priceRules(
  { pattern, pivots }: Pick<Wave, "pattern" | "pivots">,
  options: RuleOptions = STRICT,
): RuleLine[] {
  const sign = directionOf(pivots);
  const lines: RuleLine[] = [];
  const late = pivots.findIndex((pivot, i) => i > 0 && pivot.time <= pivots[i - 1].time);
  if (late > 0) lines.push({ rule: ORDER, holds: false, numbers: { wave: late }, pivot: late, source: OUR_READING });
  const stray = pivots.findIndex(
    ({ price }, i) => i > 0 && (i % 2 === 1 ? sign : -sign) * (price - pivots[i - 1].price) <= 0,
  );
  if (stray > 0)
    lines.push({
      rule: LEGS,
      holds: false,
      numbers: { wave: stray, from: pivots[stray - 1].price, to: pivots[stray].price },
      pivot: stray,
      source: OUR_READING,
    });
  for (const rule of PATTERNS[pattern].rules)
    if (judgedAt(rule) < pivots.length) lines.push(lineOf(rule, pattern, pivots, sign, options));
  const end = pivots[pivots.length - 1];
  if (isComplete({ pattern, pivots }) && sign * (end.price - pivots[0].price) <= 0)
    lines.push({
      rule: NET,
      holds: false,
      numbers: { start: pivots[0].price, end: end.price },
      pivot: pivots.length - 1,
      source: OUR_READING,
    });
  return lines;
}

function lineOf(
  rule: PriceRule,
  pattern: Pattern,
  pivots: readonly Pivot[],
  sign: number,
  { scale, overlap }: RuleOptions,
): RuleLine {
  const { on } = SCALES[scale];
  const { text, source } = rule;
  const price = (i: number) => pivots[i].price;
  const length = (wave: number) => Math.abs(on(price(wave)) - on(price(wave - 1)));
  const unit = scale === "log" ? "log" : "price";
  const pivot = judgedAt(rule);
  const name = (i: number) => (i === 0 ? "startOf1" : `endOf${i}`);
  const lettered = (numbers: Record<string, number>) =>
    Object.fromEntries(
      Object.entries(numbers).map(([key, value]) => [
        key.replace(/\d$/, (digit) => labelAt(pattern, Number(digit))),
        value,
      ]),
    );
  switch (rule.kind) {
    case "beyond": {
      const slack = rule.territory ? overlap * Math.abs(price(1) - price(0)) : 0;
      const margin = rule.way * sign * (price(rule.pivot) - price(rule.than)) + slack;
      return {
        rule: text,
        holds: rule.strict ? margin > 0 : margin >= -slackOf(slack),
        numbers: lettered({ [name(rule.pivot)]: price(rule.pivot), [name(rule.than)]: price(rule.than) }),
        margin,
        unit: "price",
        pivot,
        source,
      };
    }
    case "longer": {
      const [a, b] = [length(rule.wave), rule.factor * length(rule.than)];
      return {
        rule: text,
        holds: rule.strict ? a - b > SAME * b : a - b >= -SAME * b,
        numbers: lettered({ [`wave${rule.wave}`]: a, [`wave${rule.than}`]: length(rule.than) }),
        margin: a - b,
        unit,
        pivot,
        source,
      };
    }
    case "shorter": {
      const [a, b] = [length(rule.wave), length(rule.than)];
      return {
        rule: text,
        holds: b - a > SAME * b,
        numbers: lettered({ [`wave${rule.wave}`]: a, [`wave${rule.than}`]: b }),
        margin: b - a,
        unit,
        pivot,
        source,
      };
    }
    case "lines": {
      const slope = (from: number, to: number) =>
        (sign * (on(price(to)) - on(price(from)))) / (pivots[to].time - pivots[from].time);
      const [over, under] = [slope(1, 3), slope(2, 4)];
      return {
        rule: text,
        holds: rule.converge ? under > over : over > under,
        numbers: { perDayOver1And3: over * DAY, perDayOver2And4: under * DAY },
        pivot,
        source,
      };
    }
    case "notShortest": {
      const [one, five] = rule.among.map(length);
      const own = length(rule.wave);
      const margin = own - Math.min(one, five);
      return {
        rule: text,
        holds: margin >= -SAME * own,
        numbers: { wave1: one, wave3: own, wave5: five },
        margin,
        unit,
        pivot,
        source,
      };
    }
  }
}

const slackOf = (slack: number) => (slack > 0 ? SAME * slack : 0);

/** What wave n of a pattern is called; pivot 0 is the start of its first wave. */
function labelAt(pattern: Pattern, n: number): string {
  return PATTERNS[pattern].labels[n - 1] ?? "";
}

export interface CheckedWave {
  wave: Wave;
  at: readonly number[];
  rules: RuleLine[];
}

/**
 * Every rule of every wave of a tree: those of price, which pattern may stand where, and that inner waves keep to their
 * pivots.
 */
export function checkTree(root: Wave, options: RuleOptions = STRICT): CheckedWave[] {
  return allWaves(root).map(({ wave, at }) => ({
    wave,
    at,
    rules: [...priceRules(wave, options), ...innerRules(wave)],
  }));
}

function innerRules(wave: Wave): RuleLine[] {
  const { pattern, pivots, inner } = wave;
  const { labels, children } = PATTERNS[pattern];
  const sign = directionOf(pivots);
  const lines: RuleLine[] = [];
  inner.forEach((child, i) => {
    if (!child) return;
    const label = labels[i];
    const pivot = Math.min(i + 1, pivots.length - 1);
    lines.push({
      rule: `wave ${label} may be ${article(PATTERNS[child.pattern].title)}`,
      holds: children[i].includes(child.pattern),
      numbers: {},
      pivot,
      source: "Frost and Prechter, chapters 1 and 2",
    });
    const [start, end] = [child.pivots[0], child.pivots[child.pivots.length - 1]];
    const within =
      isAt(start, pivots[i]) &&
      (i + 1 < pivots.length ? !isComplete(child) || isAt(end, pivots[i + 1]) : !isComplete(child)) &&
      (i + 1 >= pivots.length || end.time <= pivots[i + 1].time);
    if (!within)
      lines.push({
        rule: `what is inside wave ${label} keeps to its start and its end`,
        holds: false,
        numbers: {},
        pivot,
        source: OUR_READING,
      });
    const way = i % 2 === 0 ? sign : -sign;
    if (child.pivots.length > 1 && directionOf(child.pivots) !== way)
      lines.push({
        rule: `what is inside wave ${label} goes its way`,
        holds: false,
        numbers: {},
        pivot,
        source: OUR_READING,
      });
  });
  const told = inner.filter((child) => child !== undefined);
  if ((pattern === "triangle" || pattern === "triangleExpanding") && told.length > 1) {
    const more = told.filter((child) => !isSimple(child.pattern)).length;
    lines.push({
      rule: "at most one wave of a triangle is more than a zigzag or several",
      holds: more <= 1,
      numbers: { more },
      pivot: pivots.length - 1,
      source: "Frost and Prechter, chapter 2",
    });
  }
  const third = pattern === "impulse" && pivots.length > 5 ? truncation(wave, sign) : undefined;
  if (third) lines.push(third);
  if (
    !areWavesTogether(
      pattern,
      Array.from(labels, (_, i) => inner[i]?.pattern),
    ) &&
    inner.length === labels.length &&
    inner.every((child, i) => i % 2 === 1 || child)
  )
    lines.push({
      rule: "a double or triple three is not made of zigzags alone",
      holds: false,
      numbers: {},
      pivot: pivots.length - 1,
      source: "Frost and Prechter, chapter 1",
    });
  return lines;
}

/** A fifth that does not pass the third must have its five parts. Not judged while nothing is said of its inside. */
function truncation({ pivots, inner }: Wave, sign: number): RuleLine | undefined {
  const short = sign * (pivots[5].price - pivots[3].price);
  const fifth = inner[4];
  if (short > 0 || !fifth) return undefined;
  return {
    rule: "a truncated wave 5 has its five parts",
    holds: isComplete(fifth) && PATTERNS[fifth.pattern].motive,
    numbers: { endOf5: pivots[5].price, endOf3: pivots[3].price },
    pivot: 5,
    source: ELLIOTT_TRUNCATION,
  };
}

const ELLIOTT_TRUNCATION = "Frost and Prechter, chapter 1";

const article = (title: string) => `${/^[aeiou]/.test(title) ? "an" : "a"} ${title}`;

function isAt(a: Pivot, b: Pivot): boolean {
  return a.time === b.time && a.price === b.price;
}

/**
 * Whether a price rule pattern is kept, without a table: what the counting machine asks. `v` are prices (times -1 for a
 * falling one) on the scale of lengths, `t` their times.
 */
export function keeps(rule: PriceRule, v: ArrayLike<number>, t: ArrayLike<number>): boolean {
  switch (rule.kind) {
    case "beyond": {
      const margin = rule.way * (v[rule.pivot] - v[rule.than]);
      return rule.strict ? margin > 0 : margin >= 0;
    }
    case "longer": {
      const b = rule.factor * Math.abs(v[rule.than] - v[rule.than - 1]);
      const a = Math.abs(v[rule.wave] - v[rule.wave - 1]);
      return rule.strict ? a - b > SAME * b : a - b >= -SAME * b;
    }
    case "shorter": {
      const b = Math.abs(v[rule.than] - v[rule.than - 1]);
      return b - Math.abs(v[rule.wave] - v[rule.wave - 1]) > SAME * b;
    }
    case "lines": {
      const [over, under] = [(v[3] - v[1]) / (t[3] - t[1]), (v[4] - v[2]) / (t[4] - t[2])];
      return rule.converge ? under > over : over > under;
    }
    case "notShortest": {
      const own = Math.abs(v[rule.wave] - v[rule.wave - 1]);
      const [a, b] = rule.among;
      return own - Math.min(Math.abs(v[a] - v[a - 1]), Math.abs(v[b] - v[b - 1])) >= -SAME * own;
    }
  }
}
