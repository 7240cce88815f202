import { randomUUID } from "node:crypto";
import { plainDraft } from "#core/edition/blocks";
import { writtenOf } from "#core/written/former";
import { kindOf } from "#core/marks/registry";
import type { Mark } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import type { Scenario } from "#core/scenarios/scenario";
import type { Series } from "#core/series/series";
import { readImpulse } from "#core/waves/impulse";
import { calendarOf, factsOf, findMarket } from "../server/bars/markets.ts";
import { seriesOf } from "../server/bars/series.ts";
import { applySteps } from "../server/desk/marks.ts";
import { saveScenario } from "../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../server/publishing/drafts.ts";
import { publish } from "../server/publishing/publish.ts";
import { countOf, runningWave } from "./counted.ts";
import type { PlantedWave } from "./waves.ts";

interface Author {
  id: string;
  name: string;
}

/**
 * What the demo's analyst has said so far of one market: two counts taken from the wave tree the prices were made
 * from, the base under the last low, the last high, a scenario, and the edition that says so.
 */
export async function sayOpinions(marketId: string, truth: PlantedWave, author: Author, now: number): Promise<void> {
  const market = await findMarket(marketId);
  const facts = factsOf(market);
  const series = await seriesOf(market, "P1D");
  const blank = { market: marketId, note: "", author: author.id, version: 0 };
  const outer = await countOf(market, truth, "P1W", "Primary", author.id);
  const minor = await countOf(market, await runningWave(market, truth), "P1D", "Intermediate", author.id);
  const low = extreme(series, series.length - 60, "low");
  const high = extreme(series, series.length - 130, "high");
  const base: Mark = {
    ...blank,
    id: randomUUID(),
    kind: "zone",
    rung: "P1D",
    anchors: [{ time: series.time[low], price: series.low[low] }],
    props: { side: "demand", own: false },
  };
  const zone = kindOf(base).complete?.(base, { series, market: facts, calendar: calendarOf(market) }) ?? base;
  const level: Mark = {
    ...blank,
    id: randomUUID(),
    kind: "level",
    rung: "P1D",
    anchors: [{ time: series.time[high], price: series.high[high] }],
    props: { label: "last high" },
  };
  const marks = [outer, minor, zone, level].filter((mark) => mark.anchors.length >= kindOf(mark).anchors.least);
  const steps = marks.map(({ id, kind, rung, anchors, props, note }) => ({
    id: randomUUID(),
    step: "set" as const,
    version: 0,
    mark: { id, kind, rung, anchors, props, note },
  }));
  await applySteps(marketId, steps, author.id);

  const close = series.close[series.length - 1];
  const round = (price: number) => Number((Math.round(price / facts.tick) * facts.tick).toFixed(facts.decimals));
  const height = Math.abs(series.high[high] - series.low[low]);
  const scenario: Scenario = {
    id: randomUUID(),
    title: "A, favourite: a fifth wave to new ground",
    premise: "The correction has held its base so far; the count asks for one more leg.",
    direction: "long",
    trigger: { event: "closeAbove", price: round(close + height * 0.02), timeframe: "PT1H" },
    entry: { order: "market", price: round(close + height * 0.03) },
    stop: round(close - height * 0.12),
    targets: [
      { price: round(close + height * 0.2), share: 0.5 },
      { price: round(close + height * 0.45), share: 0.5 },
    ],
    invalidation: round(close - height * 0.16),
    expiry: now + 14 * 86_400_000,
  };
  await saveScenario(marketId, { version: 0, step: "save", scenario: writtenOf(scenario) }, author.id);

  const price = (value: number) => priceText(value, facts);
  const kill = readImpulse(minor.anchors, "log").statements.at(0);
  const draft = await createDraft(author.id);
  await saveDraft(draft.id, {
    version: 1,
    ...plainDraft(
      `${facts.name}: room above ${price(scenario.trigger.price)} while ${price(scenario.invalidation)} stands`,
      [
        `The advance since the low at ${price(series.low[low])} counts best as part of a larger fifth wave. ` +
          `Price is ${price(close)}; the last high stands at ${price(series.high[high])}.`,
        kill
          ? `The count is plain about what would end it: ${kill.statement}, and that dies ${kill.killSide} ` +
            `${price(kill.killPrice)}.`
          : "The count is young; only its start can end it.",
        "We ask for an hourly close before anything is done, and leave at once where the scenario is wrong.",
      ].join("\n\n"),
      [{ market: marketId, rung: "P1D", scenarios: [scenario.id] }],
    ),
  });
  await publish(draft.id, author);
}

/** Index of the lowest low or highest high from `from` on. */
function extreme(series: Series, from: number, side: "low" | "high"): number {
  let best = Math.max(0, from);
  for (let i = best; i < series.length; i++)
    if (side === "low" ? series.low[i] < series.low[best] : series.high[i] > series.high[best]) best = i;
  return best;
}
