import Box from "@mui/material/Box";
import { Calendar, type CalendarSpec } from "#core/time/calendar";
import { DAY, dayNumber, formatDate, mondayOf } from "#core/time/dates";
import { offsetAt } from "#core/time/zone";

const NAMES = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const ROW = 17;
const LEFT = 52;
const WIDTH = 280;

interface Props {
  calendar: CalendarSpec;
  now: number;
}

/** The week of `now` by the market's own clock: regular sessions filled with ink, overnight ones hatched. */
export function WeekOfSessions({ calendar: spec, now }: Props) {
  const calendar = new Calendar(spec);
  const local = now + offsetAt(now, spec.zone);
  const monday = mondayOf(dayNumber(local));
  const x = (share: number) => LEFT + share * (WIDTH - LEFT);
  const rows = NAMES.map((name, i) => ({ name, day: monday + i }));
  const blocks = [-1, 0, 1, 2, 3, 4, 5, 6, 7]
    .flatMap((i) => calendar.sessions(monday + i))
    .flatMap(({ open, close, kind }) =>
      piecesOf(open + offsetAt(open, spec.zone), close + offsetAt(close, spec.zone)).map((piece) => ({
        ...piece,
        kind,
      })),
    )
    .filter(({ day }) => day >= monday && day < monday + 7);
  const hatch = `hatch-${spec.zone.replace(/\W/g, "")}`;
  return (
    <Box
      component="svg"
      role="img"
      aria-label={`Sessions of the week, clock of ${spec.zone}`}
      viewBox={`0 0 ${WIDTH} ${ROW * 7 + 18}`}
      sx={{ width: "100%", maxWidth: WIDTH, display: "block", color: "text.primary" }}
    >
      <defs>
        <pattern id={hatch} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="5" stroke="currentColor" strokeWidth="1.4" />
        </pattern>
      </defs>
      {[0, 6, 12, 18, 24].map((hour) => (
        <g key={hour}>
          <line x1={x(hour / 24)} x2={x(hour / 24)} y1={0} y2={ROW * 7} stroke="currentColor" strokeOpacity={0.2} />
          <text
            x={x(hour / 24)}
            y={ROW * 7 + 14}
            fontSize="11"
            textAnchor={hour === 24 ? "end" : hour === 0 ? "start" : "middle"}
            fill="currentColor"
          >
            {String(hour).padStart(2, "0")}:00
          </text>
        </g>
      ))}
      {rows.map(({ name, day }, i) => (
        <text
          key={name}
          x={0}
          y={i * ROW + 12.5}
          fontSize="12"
          fill="currentColor"
          fontWeight={day === dayNumber(local) ? 600 : 400}
        >
          {name} {Number(formatDate(day).slice(8))}
        </text>
      ))}
      {blocks.map(({ day, from, to, kind }, i) => (
        <rect
          key={i}
          x={x(from)}
          y={(day - monday) * ROW + 3}
          width={x(to) - x(from)}
          height={ROW - 6}
          fill={kind === "regular" ? "currentColor" : `url(#${hatch})`}
          stroke="currentColor"
          strokeWidth={0.8}
        />
      ))}
      <line
        x1={x((local % DAY) / DAY)}
        x2={x((local % DAY) / DAY)}
        y1={(dayNumber(local) - monday) * ROW - 1}
        y2={(dayNumber(local) - monday + 1) * ROW + 1}
        stroke="currentColor"
        strokeWidth={2.5}
      />
    </Box>
  );
}

/** A stretch of civil time cut at midnight, as shares of each day. */
function piecesOf(from: number, to: number): { day: number; from: number; to: number }[] {
  const out = [];
  for (let day = dayNumber(from); day * DAY < to; day++)
    out.push({ day, from: Math.max(0, from / DAY - day), to: Math.min(1, to / DAY - day) });
  return out;
}
