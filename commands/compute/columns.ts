import { LEAST_BASE, pointAndFigureOf } from "#core/columns/pointAndFigure";
import type { BoxSize } from "#core/columns/grid";
import { RequestFault } from "./fault.ts";
import { oneOf, orFault, readNumber, type Parameter } from "./parameters.ts";
import { timeText, type Quantity } from "./quantity.ts";
import { asFields } from "./request.ts";

const BOX = '"box" must be a number above 0, { "percent": ... } or { "atr": ..., "multiple": ... }';

function readBox(value: unknown): BoxSize {
  if (typeof value === "number") {
    if (!(value > 0 && value < 1e12)) throw new RequestFault(`${BOX}.`);
    return value;
  }
  const fields = asFields(value, "box", ["percent", "atr", "multiple"]);
  const named = Object.keys(fields).sort().join();
  if (named === "percent") {
    const percent = readNumber(fields.percent, "box.percent");
    if (!(percent > 0 && percent <= 50)) throw new RequestFault('"box.percent" must be above 0 and at most 50.');
    return { percent };
  }
  if (named !== "atr,multiple") throw new RequestFault(`${BOX}.`);
  const multiple = readNumber(fields.multiple, "box.multiple");
  const { atr } = fields;
  if (typeof atr !== "number" || !Number.isInteger(atr) || atr < 1 || atr > 1e7)
    throw new RequestFault('"box.atr" must be a whole number from 1.');
  if (!(multiple > 0 && multiple < 1e6)) throw new RequestFault('"box.multiple" must be above 0.');
  return { atr, multiple };
}

const BOX_PARAMETER: Parameter = {
  ...{ name: "box", type: "number above 0, { percent } or { atr, multiple }", fallback: { percent: 1 } },
  read: readBox,
};

const REVERSAL: Parameter = {
  ...{ name: "reversal", type: "1 or 3", fallback: 3 },
  read(value) {
    if (value !== 1 && value !== 3) throw new RequestFault('"reversal" must be 1 or 3.');
    return value;
  },
};

const LEAST: Parameter = {
  ...{ name: "least", type: "whole number from 3", fallback: LEAST_BASE },
  read(value) {
    if (typeof value !== "number" || !Number.isInteger(value) || value < 3 || value > 1e7)
      throw new RequestFault('"least" must be a whole number from 3.');
    return value;
  },
};

/** Columns of boxes, and what they count for. */
export const columns: readonly Quantity[] = [
  {
    name: "pointAndFigure",
    says: "columns of boxes, and targets counted from them (Cohen 1947; de Villiers and Taylor 1933; from memory)",
    parameters: [BOX_PARAMETER, REVERSAL, oneOf("method", ["highLow", "close"], "highLow"), LEAST],
    fields: ["box", "columns", "targets"],
    values({ box, reversal, method, least }, { series, timeframe, tick }) {
      const rules = { box: box as BoxSize, reversal: reversal as number, method: method as "close" };
      const chart = orFault(() => pointAndFigureOf(series, rules, tick(), least as number));
      const timeAt = (i: number) => timeText(series.time[i], timeframe);
      const optional = (name: string, i: number | undefined) => (i === undefined ? {} : { [name]: timeAt(i) });
      return [
        {
          ...(chart.box === undefined ? {} : { box: chart.box }),
          columns: chart.columns.map(({ isRising, bottom, top, start, end }) => ({
            direction: isRising ? "up" : "down",
            low: chart.priceOf(bottom),
            high: chart.priceOf(top),
            boxes: top - bottom + 1,
            start: timeAt(start),
            end: timeAt(end),
          })),
          targets: chart.targets.map(({ kind, isUp, count, state, ...target }) => ({
            ...{ kind, direction: isUp ? "up" : "down", from: chart.priceOf(target.from), count },
            ...{ target: chart.priceOf(target.target), state, knownAt: timeAt(target.knownAt) },
            start: timeAt(target.start),
            ...optional("forceAt", target.forceAt),
            ...optional("metAt", target.metAt),
            ...optional("negatedAt", target.negatedAt),
          })),
        },
      ];
    },
  },
];
