import type { MarketFacts } from "#core/marks/kind";
import { sayStudy, studyName, valueText, type Columns } from "#core/studies/reading";
import type { Plot } from "../scale.ts";
import { textWidth, type Shape } from "../shapes.ts";
import { strokeOf } from "./lines.ts";

const SIZE = 11;
/** Pixels of a piece of line before a name, from one head to the next, and that words are given at least. */
const KEY = 20;
const APART = 15;
const WORDS = 420;

/** Its lines at bar `i`, as far as they are drawn: "71.2", "0.42  0.31". */
export function valuesText({ study, columns }: Columns, i: number, market: MarketFacts): string {
  return study.lines
    .flatMap(({ unit, ink, ahead }, n) => {
      const value = columns[n][i];
      return ink === "none" || ahead !== undefined || value === undefined || Number.isNaN(value)
        ? []
        : [valueText(value, unit, market)];
    })
    .join("\u2002");
}

/** The name of a study in a panel's corner, its values at bar `i`, and what they read where there is room. */
export function panelHead(of: Columns, plot: Plot, i: number, close: ArrayLike<number>, market: MarketFacts): Shape[] {
  const name = studyName(of.study, of.params);
  const y = plot.top + 9;
  const values = valuesText(of, i, market);
  const said = sayStudy(of, close, i, market).replace(/^at [^:]*: /, "");
  const shown = [values, plot.width > WORDS ? said : ""].filter(Boolean).join("\u2003");
  const text = (words: string, x: number, bold: boolean): Shape => ({
    ...{ kind: "text", x, y, text: words, color: bold ? "ink2" : "ink3", size: SIZE, bold },
    ...{ baseline: "middle", halo: "paper" },
  });
  const x = plot.left + 8;
  return [text(name, x, true), text(shown, x + textWidth(name, SIZE) * 1.06 + 12, false)];
}

/** Studies among the prices, one under the other in the plot's corner: a piece of the line, the name, its value. */
export function priceHeads(studies: readonly Columns[], plot: Plot, i: number, market: MarketFacts): Shape[] {
  return studies.flatMap((of, order): Shape[] => {
    const y = plot.top + 8 + order * APART;
    const x = plot.left + 8;
    const ink = of.study.lines.find(({ ink = "main" }) => ink !== "none")?.ink ?? "main";
    return [
      { kind: "path", paths: [[x, y, x + KEY, y]], ...strokeOf(ink === "edge" ? "edge" : "main", order) },
      {
        ...{
          kind: "text",
          x: x + KEY + 6,
          y,
          text: `${studyName(of.study, of.params)}\u2002${valuesText(of, i, market)}`,
        },
        ...{ color: "ink2", size: SIZE, baseline: "middle", halo: "paper" },
      },
    ];
  });
}
