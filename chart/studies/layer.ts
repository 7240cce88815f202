import type { MarketFacts } from "#core/marks/kind";
import { lineOf, sayStudy, type Columns } from "#core/studies/reading";
import type { ChosenStudy } from "#core/studies/chosen";
import { bounded } from "../bounds.ts";
import { MARGIN, type Plot, type Scale } from "../scale.ts";
import type { Shape } from "../shapes.ts";
import type { TimeTick } from "../ticks.ts";
import { bandBetween, drawLine, strokeOf, type Grid } from "./lines.ts";
import { drawPanel } from "./panel.ts";
import { panelHead, priceHeads } from "./heads.ts";

/** A study on a chart, as it was chosen and what it is there. */
export interface DrawnStudy extends Columns {
  chosen: ChosenStudy;
}

/** Least pixels of a panel, and of the prices above them: panels give way first. */
const LEAST = { panel: 38, prices: 150 };

/** The studies of one chart: what is drawn among the prices, and in panels beneath them. */
export class StudyLayer {
  private readonly among: readonly DrawnStudy[];
  private readonly beneath: readonly DrawnStudy[];

  constructor(
    studies: readonly DrawnStudy[],
    private readonly close: ArrayLike<number>,
    private readonly market: MarketFacts,
  ) {
    this.among = studies.filter(({ study }) => study.place === "price");
    this.beneath = studies.filter(({ study }) => study.place !== "price");
  }

  /** Heights of the panels on a chart of so many pixels, from the top one down. */
  heights(height: number): number[] {
    const room = Math.max(0, height - MARGIN.top - MARGIN.bottom - LEAST.prices);
    const wanted = this.beneath.map((one) => Math.max(LEAST.panel, Math.round(one.chosen.height * height)));
    const sum = wanted.reduce((all, one) => all + one, 0);
    return sum <= room ? wanted : wanted.map((one) => Math.floor((one * room) / sum));
  }

  /** Behind the candles: bands and lines among the prices. */
  amongPrices(scale: Scale): Shape[] {
    const { view, plot } = scale;
    const grid: Grid = { x: scale.x, y: scale.y, from: view.from, to: view.to, width: plot.width };
    const bands = this.among.flatMap((of): Shape[] => {
      const { between } = of.study;
      if (!between) return [];
      const [a, b] = between.map((name) => lineOf(of, name)!);
      return [bandBetween(a, b, grid, aheadOf(of, between[0]))];
    });
    const lines = this.among.flatMap((of, order) =>
      of.study.lines.flatMap(({ name, ink = "main" }, n): Shape[] =>
        ink === "none" ? [] : [drawLine(of.columns[n], grid, strokeOf(ink, order), aheadOf(of, name), of.study.steps)],
      ),
    );
    return [...bands, ...lines];
  }

  /** Beneath the prices: a panel each. */
  panels(scale: Scale, ticks: readonly TimeTick[]): Shape[] {
    return this.plots(scale).flatMap((plot, n) => drawPanel(this.beneath[n], plot, scale, ticks, this.market));
  }

  /** Names and values at a bar, and what they read. */
  heads(scale: Scale, index: number): Shape[] {
    const i = Math.max(0, Math.min(this.close.length - 1, index));
    return [
      ...priceHeads(this.among, scale.plot, i, this.market),
      ...this.plots(scale).flatMap((plot, n) =>
        bounded(panelHead(this.beneath[n], plot, i, this.close, this.market), plot),
      ),
    ];
  }

  /** The study whose panel stands so many below the prices. */
  beneathAt(panel: number): ChosenStudy | undefined {
    return this.beneath[panel]?.chosen;
  }

  /** What a study on this chart reads at its last bar; nothing of one that is not on it. */
  says(chosen: ChosenStudy): string {
    const of = [...this.among, ...this.beneath].find((one) => one.chosen === chosen);
    return of ? sayStudy(of, this.close, this.close.length - 1, this.market) : "";
  }

  private plots({ plot }: Scale): Plot[] {
    let top = plot.top + plot.height;
    return (plot.below ?? []).map((height) => {
      const own = { left: plot.left, top, width: plot.width, height };
      top += height;
      return own;
    });
  }
}

function aheadOf({ study, params }: Columns, name: string): number {
  const ahead = study.lines.find((line) => line.name === name)?.ahead;
  return ahead === undefined ? 0 : (params[ahead] as number);
}
