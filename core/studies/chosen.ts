import { parseTimeframe } from "#core/time/timeframe";
import { readStudyParams } from "#core/studies/params";
import { studyOf } from "#core/studies/registry";
import { MOST_PANELS, PANEL } from "#core/studies/limits";
import type { StudyParams } from "#core/studies/study";

/** A study that an analyst has on the charts. */
export interface ChosenStudy {
  study: string;
  params: StudyParams;
  /** The rungs that show it; every one where there is none. */
  rungs: readonly string[];
  /** Share of a chart's height that its panel takes; nothing for a study among the prices. */
  height: number;
  /** It stands in the list and is drawn nowhere. */
  hidden?: boolean;
}

/** A chosen study from untrusted data; a sentence where it is none. */
export function readChosenStudy(raw: unknown): ChosenStudy | string {
  if (typeof raw !== "object" || raw === null || Array.isArray(raw)) return "A study must be an object.";
  const {
    study: name,
    params = {},
    rungs = [],
    height = PANEL.usual,
    hidden = false,
    ...rest
  } = raw as Record<string, unknown>;
  const [stray] = Object.keys(rest);
  if (stray !== undefined) return `A study has no "${stray}".`;
  const study = typeof name === "string" ? studyOf(name) : undefined;
  if (!study) return `There is no study named "${String(name).slice(0, 40)}".`;
  if (typeof params !== "object" || params === null || Array.isArray(params)) return "Parameters must be an object.";
  const read = readStudyParams(study, params as Record<string, unknown>);
  if (typeof read === "string") return read;
  if (
    !Array.isArray(rungs) ||
    rungs.length > 20 ||
    rungs.some((one) => typeof one !== "string" || !parseTimeframe(one))
  )
    return "Rungs must be a list of timeframes.";
  if (typeof height !== "number" || !(height >= PANEL.least && height <= PANEL.most))
    return `A panel takes ${PANEL.least * 100} to ${PANEL.most * 100} % of its chart.`;
  if (typeof hidden !== "boolean") return `"hidden" must be true or false.`;
  return { study: study.name, params: read, rungs: rungs as string[], height, ...(hidden ? { hidden } : {}) };
}

/** Which of the studies a chart of a rung shows; of panels as many as there is room for, the first ones. */
export function studiesOn(chosen: readonly ChosenStudy[], rung: string): ChosenStudy[] {
  let panels = 0;
  return chosen.filter(({ study, rungs, hidden }) => {
    if (hidden || (rungs.length > 0 && !rungs.includes(rung))) return false;
    return studyOf(study)?.place === "price" || ++panels <= MOST_PANELS;
  });
}
