import { dayOf, isoWeekOf, tradingHour } from "#core/context/seasonKeys";
import type { Season } from "#core/context/seasonality";
import { percentText, signedText } from "#core/marks/wording";
import { FEW } from "#core/measure/verdict";
import type { Series } from "#core/series/series";

export const SEASON_NAMES = ["month", "week", "dayOfMonth", "weekday", "hour"] as const;
export type SeasonName = (typeof SEASON_NAMES)[number];

/** What returns are told apart by: the bars they are of, and the key of a bar's label. */
export const SEASONS: Readonly<Record<SeasonName, { bars: string; keyOf(time: number, zone: string): number }>> = {
  month: { bars: "P1M", keyOf: (time) => dayOf(time).month },
  week: { bars: "P1W", keyOf: (time) => isoWeekOf(time) },
  dayOfMonth: { bars: "P1D", keyOf: (time) => dayOf(time).day },
  weekday: { bars: "P1D", keyOf: (time) => dayOf(time).weekday },
  hour: { bars: "PT1H", keyOf: tradingHour },
};

/** Every close against the close before it, as a share, by the key of the later one. All bars must have closed. */
export function returnsBy(
  { time, close, length }: Pick<Series, "time" | "close" | "length">,
  by: SeasonName,
  zone: string,
): { key: number; value: number }[] {
  const { keyOf } = SEASONS[by];
  return Array.from({ length: Math.max(0, length - 1) }, (_, i) => ({
    key: keyOf(time[i + 1], zone),
    value: close[i + 1] / close[i] - 1,
  }));
}

const MONTHS = "January February March April May June July August September October November December".split(" ");
const WEEKDAYS = "Monday Tuesday Wednesday Thursday Friday Saturday Sunday".split(" ");

/** "March", "week 12", "day 3", "Tuesday", "09:00 to 10:00". */
export function keyText(by: SeasonName, key: number): string {
  const hour = (of: number) => `${String(of % 24).padStart(2, "0")}:00`;
  switch (by) {
    case "month":
      return MONTHS[key - 1];
    case "weekday":
      return WEEKDAYS[key - 1];
    case "week":
      return `week ${key}`;
    case "dayOfMonth":
      return `day ${key}`;
    case "hour":
      return `${hour(key)} to ${hour(key + 1)}`;
  }
}

/** Above this a mean is no more than chance would give, with how many keys were asked allowed for (usual practice). */
const RARE = 0.05;

export type SeasonVerdict = "higher" | "lower" | "chance" | "few";

/** Whether the mean of a key lies off that of all returns by more than chance. */
export function seasonVerdict({ n, mean, adjusted }: Season, all: number): SeasonVerdict {
  if (n < FEW || adjusted === undefined) return "few";
  if (adjusted >= RARE) return "chance";
  return mean > all ? "higher" : "lower";
}

export const SEASON_VERDICTS: Readonly<Record<SeasonVerdict, string>> = {
  higher: "higher than chance",
  lower: "lower than chance",
  chance: "no more than chance",
  few: "too few to tell",
};

/** "+0.31 % (−0.10 to +0.72)": the mean with its 95 % interval; of one return the mean alone. */
export function seasonMeanText({ mean, error }: Season): string {
  const text = (share: number) => signedText(100 * share, 2);
  if (error === undefined) return `${text(mean)} %`;
  return `${text(mean)} % (${text(mean - 1.96 * error)} to ${text(mean + 1.96 * error)})`;
}

export const risesText = ({ rises }: Season) => percentText(rises, 0);
