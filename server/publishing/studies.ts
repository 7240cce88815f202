import { readChosenStudy, studiesOn, type ChosenStudy } from "#core/studies/chosen";
import { sayStudy, studyName, type Columns } from "#core/studies/reading";
import { studyOf } from "#core/studies/registry";
import type { StudyUnit } from "#core/studies/study";
import type { MarketFacts } from "#core/marks/kind";
import type { Series } from "#core/series/series";
import { ChartStudies, type StudyBars } from "../../chart/studies/chartStudies.ts";
import { StudyLayer, type DrawnStudy } from "../../chart/studies/layer.ts";
import { seriesOf } from "../bars/series.ts";
import { barsBeside, studiesOf } from "../desk/studies.ts";

/** A study as it is frozen: what it read at the last bar, and what it was at each bar of the picture. */
export interface FrozenStudy extends Pick<ChosenStudy, "study" | "params" | "height"> {
  name: string;
  says: string;
  /** A value a bar, the last ones of the section's bars; null where it was not defined. */
  lines: { name: string; unit: StudyUnit; values: (number | null)[] }[];
}

/** The studies a block of a draft asks for: those on its author's charts, or a look; none where it names none. */
async function askedFor(asked: string | undefined, accountId: string, setId: string): Promise<ChosenStudy[]> {
  if (asked === undefined) return [];
  const { chosen, looks } = await studiesOf(accountId, setId);
  return asked === "" ? chosen : (looks.find(({ name }) => name === asked)?.studies ?? []);
}

interface Asked {
  /** What the block says: nothing, "" for those on the charts, or the name of a look. */
  asked: string | undefined;
  accountId: string;
  setId: string;
  rung: string;
  /** How many of the last bars the section shows. */
  shown: number;
}

/** Studies of a section, worked out over all its bars and cut to those it shows. */
export async function freezeStudies(
  bars: Omit<StudyBars, "others" | "unfinished">,
  { asked, accountId, setId, rung, shown }: Asked,
): Promise<FrozenStudy[]> {
  const chosen = await askedFor(asked, accountId, setId);
  if (studiesOn(chosen, rung).length === 0 || bars.series.length === 0) return [];
  const others = await barsBeside(chosen, rung, (market) => seriesOf(market, rung));
  const drawn = new ChartStudies().drawn(chosen, rung, { ...bars, others, unfinished: false }, "");
  return drawn.map((of) => frozen(of, bars.series, bars.market, shown));
}

function frozen(of: DrawnStudy, { close, length }: Series, market: MarketFacts, shown: number): FrozenStudy {
  const { study, params, columns, chosen } = of;
  return {
    ...{ study: study.name, params, height: chosen.height, name: studyName(study, params) },
    says: sayStudy(of, close, length - 1, market),
    lines: study.lines.map(({ name, unit }, n) => ({
      ...{ name, unit },
      values: Array.from(columns[n].subarray(Math.max(0, length - shown)), (value) =>
        Number.isNaN(value) ? null : value,
      ),
    })),
  };
}

/**
 * What a picture draws of frozen studies, over the section's bars. What cannot be read any more is left out: an
 * edition outlives the studies there are.
 */
export function frozenLayer(
  studies: readonly FrozenStudy[],
  series: Series,
  market: MarketFacts,
): StudyLayer | undefined {
  const drawn = studies.flatMap(({ study: name, params, height, lines }): DrawnStudy[] => {
    const study = studyOf(name);
    const chosen = readChosenStudy({ study: name, params, height });
    if (!study || typeof chosen === "string") return [];
    const columns = study.lines.map((line) => {
      const column = new Float64Array(series.length).fill(NaN);
      const values = lines.find((one) => one.name === line.name)?.values ?? [];
      values.slice(-series.length).forEach((value, i, all) => {
        column[series.length - all.length + i] = value ?? NaN;
      });
      return column;
    });
    return [{ chosen, study, params: chosen.params, columns } satisfies DrawnStudy & Columns];
  });
  return drawn.length === 0 ? undefined : new StudyLayer(drawn, series.close, market);
}
