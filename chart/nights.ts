import type { Calendar } from "#core/time/calendar";
import type { Scale } from "./scale.ts";
import type { Shape } from "./shapes.ts";

/** Bars from one index to another, both inclusive. */
export interface Stretch {
  from: number;
  to: number;
}

/** Beyond this many bars in view a night is narrower than what is worth shading. */
const MOST = 6000;

/** Stretches of bars between two indices that belong to overnight sessions. One look at the calendar a session. */
export function nights(timeAt: (index: number) => number, from: number, to: number, calendar: Calendar): Stretch[] {
  const out: Stretch[] = [];
  if (to - from > MOST) return out;
  let [kind, until] = ["", -Infinity];
  for (let i = Math.floor(from); i <= to; i++) {
    const time = timeAt(i);
    if (time >= until) {
      const session = calendar.sessionAt(time);
      kind = session?.kind ?? "";
      until = session?.close ?? time;
    }
    if (kind !== "overnight") continue;
    const last = out.at(-1);
    if (last?.to === i - 1) last.to = i;
    else out.push({ from: i, to: i });
  }
  return out;
}

/** A shade darker than the paper from the open of the night to its end. */
export function drawNights(stretches: readonly Stretch[], { plot, x }: Scale): Shape[] {
  const [top, bottom] = [plot.top, plot.top + plot.height];
  const paths = stretches.map(({ from, to }) => {
    const [left, right] = [x(from - 0.5), x(to + 0.5)];
    return [left, top, right, top, right, bottom, left, bottom];
  });
  return paths.length === 0 ? [] : [{ kind: "path", paths, fill: "faint", opacity: 0.32, closed: true }];
}
