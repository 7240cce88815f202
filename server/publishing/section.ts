import { horizonViews, type HorizonView } from "#core/finding/horizon";
import { bearingsOf } from "#core/marks/bearing";
import { countShown } from "#core/marks/count";
import { dismissal } from "#core/marks/dismissal";
import { levelLines, type LevelLine } from "#core/marks/levels";
import type { Mark, MarketFacts } from "#core/marks/kind";
import type { Scenario } from "#core/scenarios/scenario";
import { marksFollowed, valuesOf } from "#core/written/followMarks";
import { frozenOf, renewed } from "#core/written/ground";
import { plainOf, type Frozen, type Written } from "#core/written/written";
import { barAt, slice, type Bar } from "#core/series/series";
import type { CalendarSpec } from "#core/time/calendar";
import { calendarOf, factsOf, findMarket } from "../bars/markets.ts";
import { seriesOf } from "../bars/series.ts";
import type { Market } from "../database/models.ts";
import { findingParamsOf } from "../desk/findingParams.ts";
import { horizonsOf } from "../desk/horizons.ts";
import { livesOf, type SaidMark } from "../desk/lives.ts";
import { marksOf } from "../desk/marks.ts";
import { readingsOf } from "../desk/readings.ts";
import { rungSetsOf } from "../desk/rungSets.ts";
import { scenariosOf } from "../desk/scenarios.ts";
import { SHOWN } from "#core/edition/layouts";
import type { MarketBlock } from "#core/edition/blocks";
import { readTimeframe } from "../bars/timeframes.ts";
import { freezeStudies, type FrozenStudy } from "./studies.ts";
import { drawnMarks } from "./pictureOf.ts";

/** A market's part of an edition, whole: what is drawn and said, and the bars it was drawn from. */
export interface Section {
  market: MarketFacts;
  calendar: CalendarSpec;
  /** Data revision of the market at which everything here was computed. */
  revision: number;
  rung: string;
  bars: Bar[];
  marks: SaidMark[];
  levels: LevelLine[];
  scenarios: Written[];
  /** The view by horizon; editions from before there was one have none. */
  horizons?: HorizonView[];
  /** Studies that are drawn with it; editions from before there were any have none. */
  studies?: FrozenStudy[];
}

/** A mark as it is frozen: what its picture shows of it, and nothing that is the desk's own. */
export type FrozenMark = Pick<Mark, "kind" | "rung" | "anchors" | "props">;

/** Digests (SHA-256) of a picture as SVG and, unless it is for paper, as PNG. */
export interface PictureDigests {
  svg: string;
  png?: string;
}

/** A market's part of an edition as it is frozen: what readers are shown, and what that was made from. */
export interface FrozenSection extends Omit<Section, "marks" | "scenarios"> {
  marks: FrozenMark[];
  /** Editions of before the second format of scenarios hold the first. */
  scenarios: (Frozen | Omit<Scenario, "restsOn">)[];
  /** Its pictures by the names of their views (`viewName`). */
  pictures?: Record<string, PictureDigests>;
  /** The only picture of editions from before there were several. */
  picture?: PictureDigests;
}

/**
 * What of a section becomes public, apart from its pictures: marks that are drawn, without notes, names and ids of the
 * desk.
 */
export function publicPart(section: Section): Omit<FrozenSection, "pictures"> {
  const { market, calendar, revision, rung, bars, levels, horizons, studies } = section;
  return {
    ...{ market, calendar, revision, rung, bars, levels, ...(horizons ? { horizons } : {}) },
    ...(studies && studies.length > 0 ? { studies } : {}),
    marks: drawnMarks(section).map(({ mark: { kind, rung, anchors, props } }) => ({ kind, rung, anchors, props })),
    scenarios: section.scenarios.map(frozenOf),
  };
}

/**
 * What of a section becomes public, for whoever composes it: how much, and every word that was not written for readers.
 */
export interface PublicWords {
  market: string;
  bars: number;
  marks: number;
  levels: number;
  words: string[];
}

/** Text that an analyst put into marks, by the name of the prop that holds it. */
const WORDS = ["text", "label", "reasons"];

export function publicWords(section: Section): PublicWords {
  const { marks, levels, bars, scenarios, market } = publicPart(section);
  const said = marks.flatMap(({ props }) =>
    WORDS.flatMap((name) => (typeof props[name] === "string" ? [props[name]] : [])),
  );
  // Marks out of sight stand in the table of levels with the names they were given.
  const given = new Set(section.marks.map(({ mark: { props } }) => props.label));
  const named = levels.map(({ label }) => label).filter((label) => given.has(label));
  const premises = scenarios.flatMap(({ title, premise }) => [title, premise]);
  return {
    market: market.name,
    bars: bars.length,
    marks: marks.length,
    levels: levels.length,
    words: [...new Set([...premises, ...said, ...named].map((text) => text.trim()).filter((text) => text !== ""))],
  };
}

/**
 * Puts a section together from what the desk holds now; the view by horizon is that of the analyst whose draft it is.
 */
export async function composeSection(
  marketId: string,
  rung: string,
  scenarioIds: readonly string[],
  accountId: string,
  { counts, studies }: Pick<MarketBlock, "counts" | "studies"> = {},
): Promise<Section> {
  const market = await findMarket(marketId);
  const facts = factsOf(market);
  const calendar = calendarOf(market);
  const series = await seriesOf(market, rung);
  const all = await marksOf(marketId);
  const shownMarks = all
    .filter(({ hidden, kind }) => !hidden && kind !== dismissal.kind)
    .flatMap((mark) => countShown(mark, counts));
  const livesAt = (of: readonly Mark[]) => livesOf(of, (own) => seriesOf(market, own), facts, calendar);
  const marks = await livesAt(shownMarks);
  const written = (await scenariosOf(marketId))
    .map(({ scenario }) => scenario)
    .filter(({ id }) => scenarioIds.includes(id));
  // Their prices follow marks up to now, hidden ones too.
  const followed = new Set(written.flatMap(marksFollowed));
  const lived = new Map((await livesAt(all.filter(({ id }) => followed.has(id)))).map((one) => [one.mark.id, one]));
  const scenarios = written.map(
    (one) =>
      renewed(
        one,
        valuesOf((id) => lived.get(id), facts),
      ).written,
  );
  const shown = slice(series, Math.max(0, series.length - SHOWN), series.length);
  const close = series.length > 0 ? series.close[series.length - 1] : NaN;
  return {
    market: facts,
    calendar: market.calendar,
    revision: market.revision,
    rung,
    bars: Array.from({ length: shown.length }, (_, i) => barAt(shown, i)),
    marks,
    levels: levelLines(marks, close, scenarios.flatMap(pricesIn)),
    scenarios,
    horizons: await viewOf(market, shownMarks, accountId),
    studies: await freezeStudies(
      { series, timeframe: readTimeframe(rung), calendar, market: facts },
      { asked: studies, accountId, setId: (await rungSetsOf(accountId)).chosen.id, rung, shown: SHOWN },
    ),
  };
}

/** The prices of a scenario that are known: what of the levels readers need to find again. */
function pricesIn({ terms: { orders, wrong } }: Written): number[] {
  const prices = orders.flatMap(({ entry, stop, targets }) => [
    entry.price,
    stop,
    ...targets.map(({ price }) => price),
  ]);
  return [...prices, wrong].flatMap((price) => plainOf(price) ?? []);
}

/** The view by horizon of a market as it stands. */
export async function viewOfMarket(market: Market, accountId: string): Promise<HorizonView[]> {
  return viewOf(market, await marksOf(market.id), accountId);
}

/** The view by horizon: the analysts' own bearings and, where they have said nothing, what the machine reads. */
async function viewOf(market: Market, marks: readonly Mark[], accountId: string): Promise<HorizonView[]> {
  const horizons = await horizonsOf(accountId);
  const rungs = [...new Set(Object.values(horizons).flat())];
  const { chosen } = await rungSetsOf(accountId);
  const own = bearingsOf(marks);
  const { rungs: readings } = await readingsOf(market, rungs, await findingParamsOf(accountId, chosen.id));
  return horizonViews(
    horizons,
    readings
      .filter(({ until }) => until !== undefined)
      .map(({ rung, bearing }) => ({ rung, direction: own.get(rung)?.props.direction ?? bearing.direction })),
  );
}
