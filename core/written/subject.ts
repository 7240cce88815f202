import type { Area } from "#core/areas/areas";
import type { Life, Mark } from "#core/marks/kind";
import { bandText, priceText, rungText } from "#core/marks/wording";
import type { LinePrice } from "#core/conditions/price";
import { partsOf, type MarkPart } from "#core/written/parts";
import type { Followed, WrittenBand, WrittenPrice } from "#core/written/written";

/** Something on a chart that a scenario can speak of: a price, a line or a band, and which mark says it. */
export interface Subject {
  /** "Day demand 404.00 to 406.00"; what is looked for when it is typed. */
  name: string;
  kind: string;
  rung: string;
  /** Its lowest and highest price; equal of a price. */
  bottom: number;
  top: number;
  /** As a price: of a band its edge nearer to where price stands. */
  price: WrittenPrice;
  /** As a band, where it is one, and its edges. */
  band?: WrittenBand;
  low?: WrittenPrice;
  high?: WrittenPrice;
  mark?: string;
  /** What a price of it ends: `kill` prices end a count, `target` prices are where one leads. */
  role?: "kill" | "target";
  /** Times price has been there, where that is counted. */
  touches?: number;
}

interface Decimals {
  decimals: number;
}

/** What live marks and areas say, nearest to price first. */
export function subjectsOf(
  marks: readonly { mark: Mark; life: Life }[],
  areas: readonly Pick<Area, "bottom" | "top" | "rungs">[],
  close: number,
  market: Decimals,
): Subject[] {
  const of = [
    ...marks
      .filter(({ life, mark }) => !life.dead && !mark.hidden)
      .flatMap((one) => subjectsOfMark(one, close, market)),
    ...areas.map(({ bottom, top, rungs }): Subject => ({
      name: `Area ${bandText({ bottom, top }, market)}`,
      kind: "area",
      rung: rungs[0],
      bottom,
      top,
      price: near(bottom, top, close),
      band: [bottom, top],
      low: bottom,
      high: top,
    })),
  ];
  const distance = ({ bottom, top }: Subject) => Math.max(0, bottom - close, close - top);
  return of.sort((a, b) => distance(a) - distance(b) || a.name.localeCompare(b.name));
}

const near = <T>(bottom: T, top: T, close: number): T => (Number(top) <= close ? top : bottom);

function subjectsOfMark({ mark, life }: { mark: Mark; life: Life }, close: number, market: Decimals): Subject[] {
  const parts = partsOf(mark, life);
  const touches = (life.state as { touches?: number } | null)?.touches;
  const common = { kind: mark.kind, rung: mark.rung, mark: mark.id, ...(touches === undefined ? {} : { touches }) };
  const follow = (part: string, value: Followed["value"]): Followed => ({ follows: mark.id, part, value });
  const roleOf = (role: MarkPart["role"]) => (role === "kill" || role === "target" ? { role } : {});
  const line = parts.find(({ part }) => part === "line");
  return parts.flatMap(({ part, name, role, value }): Subject[] => {
    if (part.startsWith("band ")) {
      const [bottom, top] = value as [number, number];
      const key = part.slice("band ".length);
      const [low, high] = [follow(`bottom ${key}`, bottom), follow(`top ${key}`, top)];
      return [
        {
          ...common,
          ...roleOf(role),
          name: `${rungText(mark.rung)} ${name} ${bandText({ bottom, top }, market)}`,
          bottom,
          top,
          price: top <= close ? high : low,
          band: follow(part, [bottom, top]),
          low,
          high,
        },
      ];
    }
    if (!part.startsWith("at ") || typeof value !== "number") return [];
    // A sloping line is followed along itself, not at the price it has just now.
    const price = line ? follow("line", line.value as LinePrice) : follow(part, value);
    return [
      {
        ...common,
        ...roleOf(role),
        name: `${rungText(mark.rung)} ${name} ${priceText(value, market)}`,
        bottom: value,
        top: value,
        price,
      },
    ];
  });
}
