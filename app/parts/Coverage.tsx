import Box from "@mui/material/Box";
import { rungText } from "#core/marks/wording";

interface Props {
  /** Stored resolutions with first and last time, the longest first. */
  holdings: readonly { base: string; from: number; to: number }[];
  now: number;
  width?: number;
}

const DAY = 86_400_000;
/** Ages at which the scale has a mark: a week, a month, a year, ten years. */
const AGES = [7, 30, 365, 3653];
const OLDEST = 30 * 365;
const HEIGHT = 16;

/** Age on a scale that gives the last week as much room as the years before it. */
function placeOf(age: number, width: number): number {
  return width * (1 - Math.log(1 + Math.max(0, age) / (2 * DAY)) / Math.log(1 + OLDEST / 2));
}

/** What is held of a market: a line for each resolution, the finer the heavier, from its first bar to its last. */
export function Coverage({ holdings, now, width = 150 }: Props) {
  const text = holdings.map(({ base, from, to }) => `${rungText(base)} ${dateOf(from)} to ${dateOf(to)}`).join(", ");
  return (
    <Box
      component="svg"
      role="img"
      aria-label={text || "no bars"}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      sx={{ width, height: HEIGHT, display: "block", color: "text.primary" }}
    >
      <title>{text || "no bars"}</title>
      {AGES.map((days) => (
        <line
          key={days}
          x1={placeOf(days * DAY, width)}
          x2={placeOf(days * DAY, width)}
          y1={0}
          y2={HEIGHT}
          stroke="currentColor"
          strokeOpacity={0.18}
        />
      ))}
      {holdings.map(({ base, from, to }, i) => {
        const y = 3 + i * 5;
        const [left, right] = [placeOf(now - from, width), placeOf(now - to, width)];
        return (
          <line
            key={base}
            x1={left}
            x2={Math.max(right, left + 1)}
            y1={y}
            y2={y}
            stroke="currentColor"
            strokeWidth={1 + i * 0.9}
          />
        );
      })}
    </Box>
  );
}

const dateOf = (time: number) => new Date(time).toISOString().slice(0, 10);
