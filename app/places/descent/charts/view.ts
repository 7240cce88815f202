import type { Hours } from "#core/series/hours";
import type { View } from "../../../../chart/scale.ts";
import type { PaneView } from "./Pane.tsx";

/** Address of another view of the market that is open. */
export function viewAddress(rung: string, hours: Hours, asOf?: number): string {
  return `?rung=${rung}${hours === "regular" ? "&hours=regular" : ""}${asOf === undefined ? "" : `&asOf=${asOf}`}`;
}

interface Asked {
  format: string;
  hours: Hours;
  asOf: number | undefined;
  scenario: string | undefined;
}

/** Address of what a chart shows, as a file. */
export function pictureAddress(
  { desk, rung, bars, picture }: PaneView,
  seen: View | undefined,
  { format, hours, asOf, scenario }: Asked,
): string {
  const { from, to, bottom, top, log: even } = seen ?? { from: 0, to: 1, bottom: 0, top: 1 };
  // Columns are counted from the first bar that is loaded: the file's begin there as well.
  const start = bars?.start ?? 0;
  const rules = picture?.columns?.rules;
  const before = rules ? 0 : start;
  const view = { from: from + before, to: to + before, bottom, top };
  const query = new URLSearchParams({
    format,
    rung,
    hours,
    ...Object.fromEntries(Object.entries(view).map(([name, value]) => [name, String(value)])),
  });
  if (even) query.set("log", "yes");
  if (rules) {
    query.set("columns", JSON.stringify(rules));
    query.set("start", String(start));
  }
  if (asOf !== undefined) query.set("asOf", String(asOf));
  if (scenario) query.set("scenario", scenario);
  return `/descent/${desk.market.id}/picture?${query.toString()}`;
}
