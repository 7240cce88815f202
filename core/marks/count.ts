import { ROLES, type CountProps } from "#core/marks/countProps";
import { readNode, waveOf, wholeNode } from "#core/marks/countNode";
import type { Mark, MarkKind, MarketFacts, PriceBand, Problem } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { DEGREES, degreeBelow, type Degree } from "#core/waves/degrees";
import { parseTimeframe } from "#core/time/timeframe";
import { labelText, readNotation, USUAL_NOTATION } from "#core/waves/notation";
import { PATTERNS } from "#core/waves/patterns";
import { checkTree, type RuleLine, type RuleOptions } from "#core/waves/rules";
import { isKilledBy, nestedStatements, type NestedStatement } from "#core/waves/statements";
import { targetsOf, type WaveTarget } from "#core/waves/targets";
import { spine, type Wave } from "#core/waves/wave";

/** A statement that died. */
export interface DeadStatement {
  /** Waves (from 0) from the root to the one that said it. */
  at: readonly number[];
  time: number;
  statement: string;
  rule: string;
  price: number;
  side: "below" | "above";
}

export interface CountState {
  died: readonly DeadStatement[];
  /** Prices of targets that were reached. */
  reached: readonly number[];
}

/**
 * A count of waves as a tree over its pivots (the anchors): checked rule by rule, and followed statement by statement.
 * What an inner wave says may die while the root lives on; when a statement of the root dies, the count is dead.
 */
export const count: MarkKind<CountProps, CountState> = {
  kind: "count",
  title: "Wave count",
  anchors: { least: 2, most: 6 },
  most: 400,
  onExtremes: true,
  followedOn: ({ props }) => props.finest,
  readProps(raw, anchors = 2) {
    const degree = DEGREES.find((name) => name === (raw.degree ?? "Intermediate"));
    const {
      scale = "arithmetic",
      overlap = 0,
      basis = "wick",
      role = "preferred",
      weight = 0,
      shown = 3,
      finest,
    } = raw;
    const notation = readNotation(raw.notation);
    const root = raw.root === undefined ? wholeNode("impulse", anchors) : readNode(raw.root, anchors);
    if (!degree || !root || (scale !== "arithmetic" && scale !== "log") || (basis !== "wick" && basis !== "close"))
      return undefined;
    if (!within(overlap, 0, 0.5) || !within(weight, 0, 100) || !within(shown, 1, DEGREES.length)) return undefined;
    if (finest !== undefined && (typeof finest !== "string" || !parseTimeframe(finest))) return undefined;
    const known = ROLES.find((name) => name === role);
    return (
      known && {
        degree,
        scale,
        overlap,
        basis,
        role: known,
        weight,
        shown,
        root,
        ...(finest === undefined ? {} : { finest }),
        ...(notation ? { notation } : {}),
      }
    );
  },
  check(mark, { market }) {
    return checkedWaves(mark).flatMap(({ wave, at, rules }) =>
      rules
        .filter(({ holds }) => !holds)
        .map((line): Problem => ({
          sentence: `Broken${nameAt(mark, at)}: ${line.rule}${numbersText(line, market)}.`,
          ...anchorAt(mark, wave, line),
        })),
    );
  },
  start: () => ({ died: [], reached: [] }),
  advance(mark, state, bar, emit) {
    if (state.died.some(({ at }) => at.length === 0)) return state;
    const { asserted, targets } = readingOf(mark);
    const { basis } = mark.props;
    const gone = asserted.filter((statement) => !isDead(state, statement) && isKilledBy(statement, bar, basis));
    const died: DeadStatement[] = gone.map(({ at, statement, killRule, killPrice, killSide }) => ({
      at,
      time: bar.time,
      statement,
      rule: killRule,
      price: killPrice,
      side: killSide,
    }));
    for (const { at, statement, price, side } of died)
      emit({
        event: at.length === 0 ? "killed" : "innerKilled",
        time: bar.time,
        statement,
        waves: at,
        price,
        side,
      });
    const hit = targets.filter(({ price }) => price >= bar.low && price <= bar.high && !state.reached.includes(price));
    for (const { wave, ratio, basis: of, price } of hit)
      emit({ event: "targetReached", time: bar.time, wave, ratio, of, price });
    if (died.length === 0 && hit.length === 0) return state;
    return { died: [...state.died, ...died], reached: [...state.reached, ...hit.map(({ price }) => price)] };
  },
  status: ({ died }) =>
    died.some(({ at }) => at.length === 0)
      ? { code: "dead", dead: true }
      : { code: died.length > 0 ? "insideDead" : "alive", dead: false },
  prices(mark, { state }) {
    const { asserted, targets } = readingOf(mark);
    const kills = asserted
      .filter((statement) => !isDead(state, statement))
      .map(({ killPrice, statement, at }): PriceBand => ({
        bottom: killPrice,
        top: killPrice,
        role: "kill",
        label: `${statement}${nameAt(mark, at)}`,
      }));
    const ahead =
      mark.props.role === "archived"
        ? []
        : targets.map(({ wave, ratio, price, basis }): PriceBand => ({
            bottom: price,
            top: price,
            role: "target",
            label: `wave ${wave}: ${ratio} ${basis}`,
          }));
    return [...kills, ...ahead];
  },
  say(mark, { state }, market) {
    const { degree, role, root } = mark.props;
    const name =
      `${role === "preferred" ? "" : `${role === "alternate" ? "Alternate" : "Archived"}: `}${degree} ` +
      `${PATTERNS[root.pattern].title}`;
    const broken = checkedWaves(mark).flatMap(({ rules }) => rules.filter(({ holds }) => !holds));
    if (broken.length > 0) return `${name}. Broken: ${broken[0].rule}${numbersText(broken[0], market)}.`;
    const dead = state.died.find(({ at }) => at.length === 0);
    const kill = dead ? { statement: dead.statement, killSide: dead.side, killPrice: dead.price } : killOf(mark);
    if (!kill) return `${name} begins at ${priceText(mark.anchors[0].price, market)}.`;
    return (
      `${name}: ${kill.statement}; ${dead ? "died" : "wrong"} ${kill.killSide} ` +
      `${priceText(kill.killPrice, market)}.`
    );
  },
};

interface CountReading {
  wave: Wave;
  options: RuleOptions;
  statements: NestedStatement[];
  asserted: NestedStatement[];
  /** Of the root's wave in progress, as bands and areas take them. */
  targets: WaveTarget[];
}

const readings = new WeakMap<object, CountReading>();

/** What a count says, worked out once for each version of its pivots and props. */
export function readingOf(mark: Mark<CountProps>): CountReading {
  const known = readings.get(mark);
  if (known) return known;
  const wave = waveOf(mark.anchors, mark.props.root);
  const options = { scale: mark.props.scale, overlap: mark.props.overlap };
  const statements = wave.pivots.length > 1 ? nestedStatements(wave, options) : [];
  const reading = {
    wave,
    options,
    statements,
    asserted: statements.filter(({ asserted }) => asserted),
    targets: wave.pivots.length > 1 ? targetsOf(wave, options) : [],
  };
  readings.set(mark, reading);
  return reading;
}

/** The price that ends the count as a whole: the nearest of what its root asserts first. */
export function killOf(mark: Mark<CountProps>): NestedStatement | undefined {
  return readingOf(mark).asserted.find(({ at }) => at.length === 0);
}

export function checkedWaves(mark: Mark<CountProps>): ReturnType<typeof checkTree> {
  const { wave, options } = readingOf(mark);
  return checkTree(wave, options);
}

export function isDead({ died }: CountState, { at, statement, killPrice }: NestedStatement): boolean {
  return died.some((one) => one.at.join() === at.join() && one.statement === statement && one.price === killPrice);
}

/** The degree of a wave `below` the root; the smallest there is where there is none so small. */
export function degreeAt({ degree }: Pick<CountProps, "degree">, below: number): Degree {
  return degreeBelow(degree, below) ?? DEGREES[DEGREES.length - 1];
}

/** A label as the count writes that of a wave `below` the root. */
export function labelAt(props: Pick<CountProps, "degree" | "notation">, label: string, below: number): string {
  return labelText(label, degreeAt(props, below), { ...USUAL_NOTATION, ...props.notation });
}

/** " of Minor wave 3": where an inner wave stands; empty for the root. */
export function nameAt({ props }: Mark<CountProps>, at: readonly number[]): string {
  if (at.length === 0) return "";
  let node = props.root;
  for (const wave of at.slice(0, -1)) node = node.inner[wave] ?? node;
  return ` inside ${degreeAt(props, at.length - 1)} wave ${PATTERNS[node.pattern].labels[at[at.length - 1]]}`;
}

/** The targets of every wave in progress, from the root down, each with where it comes from. */
export function nestedTargets(mark: Mark<CountProps>): (WaveTarget & { at: readonly number[] })[] {
  const { wave, options } = readingOf(mark);
  return spine(wave).flatMap(({ wave: one, at }) =>
    one.pivots.length > 1 ? targetsOf(one, options).map((target) => ({ ...target, at })) : [],
  );
}

function anchorAt({ anchors }: Mark<CountProps>, wave: Wave, { pivot }: RuleLine): { anchor?: number } {
  const at = pivot === undefined ? undefined : wave.pivots[pivot];
  const anchor = at === undefined ? -1 : anchors.findIndex(({ time, price }) => time === at.time && price === at.price);
  return anchor < 0 ? {} : { anchor };
}

function numbersText({ numbers, margin, unit }: RuleLine, market: MarketFacts): string {
  const all = Object.entries(numbers).map(
    ([name, value]) =>
      `${spaced(name)} ${name === "wave" ? value : unit === "log" ? value.toFixed(4) : priceText(value, market)}`,
  );
  const by =
    margin === undefined || unit === "log"
      ? []
      : [`${margin < 0 ? "over" : "holds"} by ${Math.round(Math.abs(margin) / market.tick)} ticks`];
  return all.length + by.length === 0 ? "" : ` (${[...all, ...by].join(", ")})`;
}

/** The numbers of a rule in words: "end of 4 41.20, end of 1 40.85, holds by 35 ticks". */
export function ruleNumbers(line: RuleLine, market: MarketFacts): string {
  return numbersText(line, market).replace(/^ \(|\)$/g, "");
}

function spaced(name: string): string {
  return name
    .replace(/([A-Z]|\d)/g, " $1")
    .replace(/^(\w)|([A-Z])(?=[a-z])/g, (letter) => letter.toLowerCase())
    .replace(/ +/g, " ")
    .trim();
}

function within(value: unknown, least: number, most: number): value is number {
  return typeof value === "number" && value >= least && value <= most;
}

/**
 * What a picture shows of counts: degrees from each count's own down, and whether alternates stand beside the
 * preferred.
 */
export interface CountsShown {
  degrees: number;
  alternates: boolean;
}

/** A mark as a picture shows it; a count that it leaves out is none. Archived counts stand in no picture. */
export function countShown(mark: Mark, shown: CountsShown = { degrees: DEGREES.length, alternates: true }): Mark[] {
  if (mark.kind !== "count") return [mark];
  const { role, shown: own } = mark.props as unknown as CountProps;
  if (role === "archived" || (role === "alternate" && !shown.alternates)) return [];
  return [{ ...mark, props: { ...mark.props, shown: Math.min(own, shown.degrees) } }];
}
