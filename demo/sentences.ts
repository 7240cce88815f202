import { randomUUID } from "node:crypto";
import { plainDraft } from "#core/edition/blocks";
import { markOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import type { Mark } from "#core/marks/kind";
import { scenarioFromCount } from "#core/scenarios/fromCount";
import type { CountProps } from "#core/marks/countProps";
import { DAY } from "#core/time/dates";
import { checkWritten } from "#core/written/check";
import { READY, type Filled, type ReadySentence } from "#core/written/ready";
import type { ReadyGround } from "#core/written/ready/ground";
import { subjectsOf } from "#core/written/subject";
import { emptyWritten, type Written } from "#core/written/written";
import { calendarOf, factsOf } from "../server/bars/markets.ts";
import { seriesOf } from "../server/bars/series.ts";
import type { Market } from "../server/database/models.ts";
import { findingParamsOf } from "../server/desk/findingParams.ts";
import { livesOf } from "../server/desk/lives.ts";
import { applySteps } from "../server/desk/marks.ts";
import { readingsOf } from "../server/desk/readings.ts";
import { saveScenario } from "../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../server/publishing/drafts.ts";
import { publish } from "../server/publishing/publish.ts";

interface Author {
  id: string;
  name: string;
}

/** A market a sentence was found for. */
interface Chosen {
  market: string;
  scenarios: string[];
}

/** Scenarios wait this long for their entry. */
const LIFE = 25 * DAY;
/** What the machine finds on a market is taken over as so many marks. */
const TAKEN = 4;
const RUNG = "PT4H";
const FINER = "PT1H";
const LONGER = ["P1D", "P1W"];

/**
 * Every kind of ready-made sentence on a market of its own that shows what it needs, filled from what stands there at
 * the moment, and published in one edition: the feed does the rest.
 */
export async function saySentences(
  markets: readonly Market[],
  countOn: (market: Market) => Promise<Mark | undefined>,
  author: Author,
  now: number,
): Promise<void> {
  const chosen: Chosen[] = [];
  for (const sentence of READY) {
    const left = markets.filter(({ id }) => !chosen.some((one) => one.market === id));
    for (const market of left) {
      const said = await sayOn(market, sentence, countOn, author, now);
      if (!said) continue;
      chosen.push(said);
      break;
    }
  }
  const draft = await createDraft(author.id);
  const sections = chosen.map(({ market, scenarios }) => ({ market, rung: RUNG, scenarios }));
  await saveDraft(draft.id, {
    version: 1,
    ...plainDraft(
      "The month ahead, market by market",
      "One sentence for each market: what has to come first, what is done then, and the price that proves it wrong. " +
        "What becomes of them is written beside them as the bars tell it.",
      sections,
    ),
  });
  await publish(draft.id, author);
}

/** The sentence on a market, with the marks it speaks of; nothing where the market does not show what it needs. */
async function sayOn(
  market: Market,
  { name, fill }: ReadySentence,
  countOn: (market: Market) => Promise<Mark | undefined>,
  author: Author,
  now: number,
): Promise<Chosen | undefined> {
  const count = name === "waveEnd" ? await countOn(market) : undefined;
  if (name === "waveEnd" && !count) return undefined;
  const { ground, marks } = await groundOf(market, count, author.id);
  const filled = fill(ground);
  if (typeof filled === "string") return undefined;
  const scenarios = writtenOf(filled, now);
  const facts = { market: factsOf(market), now };
  if (scenarios.some((one) => checkWritten(one, facts).some(({ severity }) => severity === "fault"))) return undefined;
  await place(market.id, marks, author.id);
  for (const scenario of scenarios) await saveScenario(market.id, { version: 0, step: "save", scenario }, author.id);
  return { market: market.id, scenarios: scenarios.map(({ id }) => id) };
}

/** A filled sentence, and its other side where it is a pair. */
function writtenOf({ title, terms, restsOn, other }: Filled, now: number): Written[] {
  const one = emptyWritten(randomUUID(), now + LIFE);
  const { expires } = one.terms;
  const first: Written = {
    ...one,
    title: title.slice(0, 80),
    rank: "favourite",
    weight: 60,
    terms: { ...terms, expires },
    ...(restsOn ? { restsOn } : {}),
  };
  if (!other) return [first];
  const second = { ...first, id: randomUUID(), title: title.replace(/\bup\b/, "down"), weight: 30 };
  return [
    { ...first, pair: second.id },
    { ...second, role: "alternate", rank: "acceptable", pair: first.id, terms: { ...other, expires } },
  ];
}

async function place(market: string, marks: readonly Mark[], author: string): Promise<void> {
  const steps = marks.map(({ id, kind, rung, anchors, props, note, found }) => ({
    id: randomUUID(),
    step: "set" as const,
    version: 0,
    mark: { id, kind, rung, anchors, props, note, ...(found ? { found } : {}) },
  }));
  if (steps.length > 0) await applySteps(market, steps, author);
}

/** What a market's rung shows, with the nearest of what the machine finds taken over as marks. */
async function groundOf(
  market: Market,
  count: Mark | undefined,
  author: string,
): Promise<{ ground: ReadyGround; marks: Mark[] }> {
  const facts = factsOf(market);
  const { rungs, facts: found } = await readingsOf(market, [RUNG, ...LONGER], await findingParamsOf(author, ""));
  const reading = rungs.find(({ rung }) => rung === RUNG);
  const week = rungs.find(({ rung }) => rung === "P1W");
  const close = reading?.close ?? 0;
  const marks = [
    ...nearest(found, close).map((one) => markOf(one, market.id, randomUUID())),
    ...(count ? [count] : []),
  ];
  const lived = await livesOf(marks, (rung) => seriesOf(market, rung), facts, calendarOf(market));
  const atr = reading?.atr ?? 0;
  const asks = count && scenarioFromCount(count as unknown as Mark<CountProps>, close, atr, []);
  return {
    marks,
    ground: {
      ...{ close, atr, tick: market.tick, rung: RUNG, finer: FINER },
      subjects: subjectsOf(lived, [], close, facts),
      labels: reading?.labels ?? [],
      legs: reading?.legs ?? [],
      ...(week?.barBefore && week.lastBar ? { weeks: [week.barBefore, week.lastBar] as const } : {}),
      counts: count && asks ? [{ mark: count.id, asks }] : [],
    },
  };
}

/** What an analyst would put on a chart by hand: no averages, clouds or bands. */
const isPlain = ({ step, name }: Found) => step !== "structure" && !/cloud|average|band|span|line/i.test(name);

/** The nearest of each kind of thing that was found: zones, pools and levels. */
function nearest(found: readonly Found[], close: number): Found[] {
  const distance = ({ bottom, top }: Found) => Math.max(0, bottom - close, close - top);
  const near = [...found].filter(isPlain).sort((a, b) => distance(a) - distance(b));
  const kinds = [...new Set(near.map(({ kind }) => kind))];
  return kinds.flatMap((kind) => near.filter((one) => one.kind === kind).slice(0, TAKEN / 2)).slice(0, 2 * TAKEN);
}
