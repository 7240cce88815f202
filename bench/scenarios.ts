import type { ClosedBar } from "#core/observe/closedBar";
import { closedBars } from "#core/observe/closedBars";
import { asInstant, EVER, NEVER } from "#core/observe/instant";
import { Crowd, type Member } from "#core/observe/crowd";
import { Tape, type Moment } from "#core/observe/tape";
import type { FollowUp } from "#core/scenarios/events";
import { momentsOf } from "#core/scenarios/follow";
import { scenarioHistory } from "#core/scenarios/history";
import { scenarioWatcher, type ScenarioState } from "#core/scenarios/run";
import { readScenarioTerms, type ScenarioTerms } from "#core/scenarios/terms";
import type { Layer } from "#core/series/layers";
import { slice } from "#core/series/series";
import { ALL_HOURS, Calendar } from "#core/time/calendar";
import { DAY } from "#core/time/dates";
import { parseTimeframe, type Timeframe } from "#core/time/timeframe";
import { millionBars } from "./core.ts";
import { compare, ratioLine } from "./side.ts";
import { sized } from "./size.ts";

const minute = parseTimeframe("PT1M") as Timeframe;
const calendar = new Calendar(ALL_HOURS);
const MARKETS = 24;

/** Scenarios as a desk has them: most wait for a close or a shift of a rung, some rest as orders, some are open. */
function termsOf(n: number, price: number): ScenarioTerms {
  const rung = ["PT5M", "PT15M", "PT1H", "PT4H", "P1D"][n % 5];
  const waits = [
    { when: { on: "close", side: "above", price: price + 400 + n, rung } },
    { when: { on: "shift", direction: "up", rung } },
    { when: { on: "sweep", side: "low", price: price - 300, rung } },
  ];
  const isResting = n % 5 === 0;
  return readScenarioTerms(
    {
      direction: "long",
      if: isResting ? [] : [waits[n % 3]],
      entry: n % 10 === 0 ? { order: "market" } : { order: "limit", price: price - 2_000 },
      stop: price - 4_000,
      targets: [{ price: price + 5_000, share: 1 }],
      wrong: price - 6_000,
      expires: 8e15,
    },
    Number,
  );
}

/** One new bar for every market on which scenarios are open, and a rule of three steps over a million minutes. */
export async function* scenarioLines(): AsyncGenerator<string> {
  const minutes = millionBars();
  const count = sized(10_000, 200);
  const from = minutes.length - sized(3_000, 300);
  const told: ClosedBar[] = [...closedBars([{ base: minute, series: slice(minutes, from, minutes.length) }], calendar)];
  const price = told[0].open;
  const facts = { since: told[0].from, tick: 1, zone: "UTC" };
  const watchers = Array.from({ length: count }, (_, n) => scenarioWatcher(termsOf(n, price), facts));
  const [warm, bars] = [sized(1_000, 100), sized(1_000, 50)];
  const scanned = arrivals(watchers, told, warm, bars, (own) => (moment) => {
    for (const one of own) one.state = one.watcher.next(one.state, moment).state;
  });
  const indexed = arrivals(watchers, told, warm, bars, (own) => {
    const crowd = new Crowd(own as unknown as Member[]);
    return (moment) => crowd.next(moment, () => undefined);
  });
  const inPhase = (phase: string) => indexed.states.filter((one) => one.phase === phase).length;
  const said = `${inPhase("waiting")} waiting, ${inPhase("armed")} armed, ${inPhase("open")} open`;
  yield (
    `${count} scenarios over ${MARKETS} markets (${said}), one new bar each: ${indexed.cost.toFixed(2)} ms of ` +
    `processor time, mean of ${bars} bars; everybody shown every bar: ${scanned.cost.toFixed(2)} ms, ` +
    `${(scanned.cost / indexed.cost).toFixed(1)} times as much`
  );

  const layers: Layer[] = [{ base: minute, series: minutes }];
  const all = { layers, calendar, k: 3 };
  const drain = () => {
    let n = 0;
    for (const moment of momentsOf(all, 1, [{ of: "closes" }])) n += moment.told.close > 0 ? 1 : 0;
    return n;
  };
  const history = () =>
    scenarioHistory(threeSteps(), { tick: 1, zone: "UTC" }, all, {
      from: EVER,
      to: NEVER,
      life: 5 * DAY,
      seed: 1,
      draws: 1_000,
    });
  const ratio = await compare({
    name: `a rule of 3 steps over ${minutes.length} minutes`,
    ours: history,
    other: drain,
    otherName: "the same minutes told to nobody",
    pairs: 3,
  });
  yield ratioLine(ratio);
}

type One = Member<ScenarioState, FollowUp>;

/** Processor time (ms) that a new bar for every market costs once it is warm, and where everybody ends. */
function arrivals(
  watchers: readonly One["watcher"][],
  told: readonly ClosedBar[],
  warm: number,
  bars: number,
  show: (own: One[]) => (moment: Moment) => void,
): { cost: number; states: ScenarioState[] } {
  const members = watchers.map((watcher): One => ({ watcher, state: watcher.start, from: watcher.since }));
  const needs = watchers.flatMap((watcher) => watcher.needs);
  const markets = Array.from({ length: MARKETS }, (_, market) => ({
    tape: new Tape({ calendar, tick: 1, k: 3 }, needs),
    show: show(members.filter((_one, n) => n % MARKETS === market)),
  }));
  let at = 0;
  const arrive = () => {
    const bar = told[at++];
    for (const market of markets) market.show(market.tape.next(bar));
  };
  while (at < warm) arrive();
  const began = process.cpuUsage();
  for (let n = 0; n < bars; n++) arrive();
  const { user, system } = process.cpuUsage(began);
  return { cost: (user + system) / 1000 / bars, states: members.map(({ state }) => state) };
}

function threeSteps(): ScenarioTerms {
  return readScenarioTerms(
    {
      direction: "long",
      if: [
        { when: { on: "candle", pattern: "engulfing up", rung: "PT1H" } },
        { when: { on: "sweep", side: "low", price: { bind: "barLow", step: 1 }, rung: "PT15M" }, within: 40 },
        { when: { on: "shift", direction: "up", rung: "PT5M" }, within: 40 },
      ],
      entry: { order: "limit", price: { bind: "midOfLeg", step: 3 } },
      stop: { bind: "sweptExtreme", step: 2, ticks: -1 },
      targets: [{ price: { bind: "midOfLeg", step: 3, ratio: -1 }, share: 1 }],
      breakEven: { r: 1 },
      wrong: { bind: "sweptExtreme", step: 2, ticks: -2 },
      expires: asInstant(8e15),
    },
    Number,
  );
}
