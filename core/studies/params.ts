import { isInstant } from "#core/time/dates";
import { isIntraday, parseTimeframe } from "#core/time/timeframe";
import type { Study, StudyParameter, StudyParams } from "#core/studies/study";

/** What a parameter may be, in words: "whole number from 1". */
export function parameterType(parameter: StudyParameter): string {
  switch (parameter.kind) {
    case "whole":
      return `whole number from ${parameter.least}`;
    case "number":
      return Number.isFinite(parameter.above) ? `number above ${parameter.above}` : "number";
    case "choice":
      return `one of ${parameter.of.join(", ")}`;
    case "period":
      return "ISO 8601 duration of a day or longer";
    case "time":
      return "time";
    case "market":
      return "market";
  }
}

/** Whether a value is one that the parameter may have. Times are ms UTC, markets are names. */
export function isParameter(parameter: StudyParameter, value: unknown): value is number | string {
  switch (parameter.kind) {
    case "whole":
      return Number.isInteger(value) && (value as number) >= parameter.least && (value as number) <= parameter.most;
    case "number":
      return typeof value === "number" && Number.isFinite(value) && value > parameter.above;
    case "choice":
      return typeof value === "string" && parameter.of.includes(value);
    case "period": {
      const period = typeof value === "string" ? parseTimeframe(value) : undefined;
      return period !== undefined && !isIntraday(period);
    }
    case "time":
      return (typeof value === "number" && isInstant(value)) || (value === "first" && parameter.fallback === "first");
    case "market":
      return typeof value === "string" && value.length > 0 && value.length <= 60;
  }
}

/** What stands in for a parameter on a chart; `undefined` for what only the analyst can say (an anchor, a market). */
export function usualOf(parameter: StudyParameter): number | string | undefined {
  if (parameter.kind === "market") return undefined;
  return parameter.fallback ?? (parameter.kind === "whole" ? parameter.usual : undefined);
}

/**
 * A study's parameters from untrusted data, each that is left out as it is usual; a sentence that names the one at
 * fault where they cannot be read.
 */
export function readStudyParams(
  { parameters, title }: Study,
  raw: Readonly<Record<string, unknown>>,
): StudyParams | string {
  const stray = Object.keys(raw).find((name) => !parameters.some((parameter) => parameter.name === name));
  if (stray !== undefined) return `${title} has no "${stray}".`;
  const read: Record<string, number | string> = {};
  for (const parameter of parameters) {
    const value = raw[parameter.name] ?? usualOf(parameter);
    if (!isParameter(parameter, value))
      return `"${parameter.name}" of ${title} must be ${article(parameterType(parameter))}.`;
    read[parameter.name] = value;
  }
  return read;
}

/** "a whole number", "an ISO 8601 duration", "one of open, high". */
const article = (type: string) =>
  type.startsWith("one of") ? type : `${/^[AEIOaeiou]/.test(type) ? "an" : "a"} ${type}`;
