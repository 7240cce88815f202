import type { Mark, MarkKind, MarketFacts, PriceBand } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { readImpulse, type LengthScale, type Statement } from "#core/waves/impulse";

export const DEGREES = [
  "Grand Supercycle",
  "Supercycle",
  "Cycle",
  "Primary",
  "Intermediate",
  "Minor",
  "Minute",
  "Minuette",
  "Subminuette",
] as const;
export type Degree = (typeof DEGREES)[number];

export interface ImpulseProps {
  degree: Degree;
  scale: LengthScale;
}

export interface ImpulseState {
  /** What killed the count and when; absent while it lives. */
  killed?: { time: number; statement: string; rule: string; price: number };
  /** Projections of the wave in progress that were reached. */
  reached: number[];
}

/** An impulse labelled 0 to 5, checked rule by rule; the last anchor ends the last finished wave. */
export const impulse: MarkKind<ImpulseProps, ImpulseState> = {
  kind: "impulse",
  title: "Impulse count",
  anchors: { least: 2, most: 6 },
  readProps(raw) {
    const degree = DEGREES.find((name) => name === (raw.degree ?? "Intermediate"));
    const scale = raw.scale ?? "arithmetic";
    return degree && (scale === "arithmetic" || scale === "log") ? { degree, scale } : undefined;
  },
  check(mark, { market }) {
    const reading = readImpulse(mark.anchors, mark.props.scale);
    return reading.rules
      .filter((line) => !line.holds)
      .map((line) => ({ sentence: `Broken: ${line.rule} (${numbersText(line.numbers, market)}).`, anchor: anchorOf(line) }));
  },
  start: () => ({ reached: [] }),
  advance(mark, state, bar, emit) {
    if (state.killed) return state;
    const { statements, projections } = readingOf(mark);
    const kill = statements.at(0);
    if (kill && isKilled(kill, bar)) {
      const killed = { time: bar.time, statement: kill.statement, rule: kill.killRule, price: kill.killPrice };
      emit({ event: "killed", time: bar.time, sentence: `"${kill.statement}" died: price went ${kill.killSide}.` });
      return { ...state, killed };
    }
    const hit = projections.filter(
      ({ price }) => price >= bar.low && price <= bar.high && !state.reached.includes(price),
    );
    for (const { ratio, basis } of hit)
      emit({ event: "reached", time: bar.time, sentence: `Target ${ratio} ${basis} reached.` });
    return hit.length > 0 ? { ...state, reached: [...state.reached, ...hit.map(({ price }) => price)] } : state;
  },
  status: ({ killed }) => (killed ? { status: "dead", dead: true } : { status: "alive", dead: false }),
  prices(mark) {
    const { statements, projections } = readingOf(mark);
    const targets: PriceBand[] = projections.map(({ wave, ratio, price, basis }) => ({
      bottom: price,
      top: price,
      role: "target",
      label: `wave ${wave}: ${ratio} ${basis}`,
    }));
    const kills = statements.map(({ killPrice, statement }): PriceBand => {
      return { bottom: killPrice, top: killPrice, role: "kill", label: statement };
    });
    return [...kills, ...targets];
  },
  say(mark, { state }, market) {
    const broken = this.check(mark, { market } as never);
    if (broken.length > 0) return `${mark.props.degree} impulse. ${broken[0].sentence}`;
    const kill = readingOf(mark).statements.at(0);
    if (!kill) return `${mark.props.degree} impulse begins at ${priceText(mark.anchors[0].price, market)}.`;
    const dead = state.killed ? "died" : "wrong";
    return `${mark.props.degree} impulse: ${kill.statement}; ${dead} ${kill.killSide} ${priceText(kill.killPrice, market)}.`;
  },
};

const readings = new WeakMap<object, ReturnType<typeof readImpulse>>();

/** The reading of a mark's anchors, worked out once for each version of them. */
function readingOf(mark: Mark<ImpulseProps>): ReturnType<typeof readImpulse> {
  let reading = readings.get(mark.anchors);
  if (!reading) readings.set(mark.anchors, (reading = readImpulse(mark.anchors, mark.props.scale)));
  return reading;
}

function isKilled(kill: Statement, bar: { low: number; high: number }): boolean {
  return kill.killSide === "below" ? bar.low < kill.killPrice : bar.high > kill.killPrice;
}

function anchorOf({ numbers }: { numbers: Record<string, number> }): number | undefined {
  if ("wave" in numbers) return numbers.wave;
  if ("wave5" in numbers) return 5;
  const named = Object.keys(numbers)[0]?.match(/^endOf(\d)$/);
  return named ? Number(named[1]) : undefined;
}

function numbersText(numbers: Record<string, number>, market: MarketFacts): string {
  return Object.entries(numbers)
    .map(([name, value]) => `${spaced(name)} ${name === "wave" ? value : priceText(value, market)}`)
    .join(", ");
}

function spaced(name: string): string {
  return name.replace(/([A-Z])/g, " $1").replace(/(\d)/g, " $1").toLowerCase();
}
