import { useEffect, useMemo, useState } from "react";
import type { MarketFacts } from "#core/marks/kind";
import type { Hours } from "#core/series/hours";
import type { Series } from "#core/series/series";
import type { ChosenStudy } from "#core/studies/chosen";
import type { Calendar } from "#core/time/calendar";
import type { Timeframe } from "#core/time/timeframe";
import type { ChartStudies, othersOf as OthersOf } from "../../../../chart/studies/chartStudies.ts";
import type { StudyLayer } from "../../../../chart/studies/layer.ts";
import { loadNewest } from "../../../parts/barPages.ts";
import type { LoadedBars } from "../charts/useBars.ts";

interface Of {
  bars: LoadedBars | undefined;
  market: MarketFacts;
  rung: string;
  hours: Hours;
  asOf: number | undefined;
  timeframe: Timeframe;
  calendar: Calendar;
  unfinished: boolean;
}

const load = () => import("../../../../chart/studies/chartStudies.ts");
const NO_OTHERS: ReadonlyMap<string, Series> = new Map();

/**
 * The studies of one chart. What works them out is loaded with the first study there is, so that a chart without any
 * does not wait for it.
 */
export function useStudyLayer(chosen: readonly ChosenStudy[], of: Of): StudyLayer | undefined {
  const { bars, market, rung, hours, asOf, timeframe, calendar, unfinished } = of;
  const [loaded, setLoaded] = useState<{ kept: ChartStudies; othersOf: typeof OthersOf }>();
  const [others, setOthers] = useState<{ key: string; bars: ReadonlyMap<string, Series> }>();
  const wanted = chosen.length > 0;
  useEffect(() => {
    if (wanted && !loaded)
      void load().then(({ ChartStudies: Kept, othersOf }) => setLoaded({ kept: new Kept(), othersOf }));
  }, [wanted, loaded]);
  const names = loaded && wanted ? loaded.othersOf(chosen, rung).join(" ") : "";
  // Other markets are asked again when a bar has closed here: theirs close then, too.
  const key = `${names} ${rung} ${hours} ${asOf ?? ""} ${bars?.series.time.at(-1) ?? ""}`;
  useEffect(() => {
    if (names === "") return;
    let left = false;
    const each = names.split(" ").map(async (name) => {
      const one = await loadNewest({ market: name, rung, hours, asOf }).catch(() => undefined);
      return one && ([name, one.series] as const);
    });
    void Promise.all(each).then(
      (all) => !left && setOthers({ key, bars: new Map(all.filter((one) => one !== undefined)) }),
    );
    return () => void (left = true);
  }, [names, rung, hours, asOf, key]);
  return useMemo(() => {
    if (!loaded || !wanted || !bars || bars.series.length === 0) return undefined;
    const lineage = `${bars.subject} ${bars.history} ${bars.start} ${bars.asOf ?? ""} ${bars.series.time[0]}`;
    const beside = names === "" ? NO_OTHERS : (others?.bars ?? NO_OTHERS);
    const on = { series: bars.series, timeframe, calendar, market, unfinished, others: beside };
    return loaded.kept.layer(chosen, rung, on, lineage);
  }, [loaded, wanted, bars, chosen, rung, timeframe, calendar, market, unfinished, names, others]);
}
