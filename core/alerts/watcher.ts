import { rungOf, type AlertEvent, type AlertState, type AlertTerms, type PlaceState } from "#core/alerts/alert";
import type { BandsAt, NamedBand } from "#core/alerts/place";
import { isCandle } from "#core/conditions/candle";
import type { Moment, Need, RungClose } from "#core/observe/tape";
import type { Instant } from "#core/observe/instant";
import type { Watcher } from "#core/observe/watcher";
import { wholeWatcher, type WholeState, type WholeTerms } from "#core/scenarios/legs";
import type { ScenarioFacts } from "#core/scenarios/run";

export const CALM: AlertState = { places: [], fired: false };

/**
 * An alert as a watcher; `bandsAt` gives the prices of its place at a bar. One that is not to fire again ends with its
 * first event.
 */
export function alertWatcher(terms: AlertTerms, bandsAt: BandsAt, since: Instant): Watcher<AlertState, AlertEvent> {
  return {
    needs: needsOf(terms),
    since,
    start: CALM,
    isDone: ({ fired }) => fired && !terms.again,
    next(state, moment) {
      const { places, events } = look(terms, state.places, moment, bandsAt);
      if (events.length === 0) return { state: places === state.places ? state : { ...state, places }, events };
      return { state: { places, fired: true }, events: terms.again ? events : events.slice(0, 1) };
    },
  };
}

/** A scenario's steps as an alert. */
export function scenarioAlert(terms: WholeTerms, facts: ScenarioFacts): Watcher<WholeState, AlertEvent> {
  const inner = wholeWatcher(terms, facts);
  return {
    ...inner,
    next(state, moment) {
      const { state: next, events } = inner.next(state, moment);
      return {
        state: next,
        events: events.map((followUp): AlertEvent => {
          const { at, knownAt, price } = followUp;
          return { what: "followUp", at, knownAt, price, followUp };
        }),
      };
    },
  };
}

function needsOf(terms: AlertTerms): Need[] {
  const rung = rungOf(terms);
  switch (terms.on) {
    case "reach":
    case "scenario":
      return [];
    case "shift":
      return [{ rung, of: "structure" }];
    case "candle":
      return [{ rung, of: "candles" }];
    case "beyond":
    case "close":
      return [{ rung, of: "closes" }];
  }
}

interface Looked {
  places: AlertState["places"];
  events: AlertEvent[];
}

function look(terms: AlertTerms, places: AlertState["places"], moment: Moment, bandsAt: BandsAt): Looked {
  const { from: at, to: knownAt } = moment.told;
  const event = (more: Omit<AlertEvent, "at" | "knownAt">): AlertEvent => ({ at, knownAt, ...more });
  const closes = moment.closes(rungOf(terms));
  switch (terms.on) {
    case "reach":
      return eachBand(places, closes, bandsAt, (close, band, one, place) =>
        arrive(close, band, one, terms.at.leave, place),
      );
    case "beyond":
      return eachBand(places, closes, bandsAt, cross);
    case "scenario":
      // It is followed as a scenario is: `scenarioAlert`.
      return { places, events: [] };
    case "candle":
      return {
        places,
        events: closes.flatMap(({ bar, candle }) => {
          if (!candle || !isCandle(candle, terms.candle)) return [];
          const band = bandsAt(bar.time).find(({ bottom, top }) => bar.low <= top && bar.high >= bottom);
          return band ? [event({ what: "candle", price: bar.close, band, candle })] : [];
        }),
      };
    case "shift":
      return {
        places,
        events: closes.flatMap(({ shift }) => {
          if (!shift || (terms.direction !== "either" && terms.direction !== shift.direction)) return [];
          return [event({ what: "shift", price: shift.price, direction: shift.direction })];
        }),
      };
    case "close":
      return { places, events: closes.map(({ bar }) => event({ what: "close", price: bar.close })) };
  }

  function eachBand(before: AlertState["places"], bars: readonly RungClose[], bands: BandsAt, judge: Judge): Looked {
    const events: AlertEvent[] = [];
    const after = [...before];
    for (const close of bars)
      bands(close.bar.time).forEach((band, place) => {
        const known = after[place] ?? { side: sideOf(close.previous ?? close.bar.close, band), armed: true };
        const { state, said } = judge(close, band, known, place);
        after[place] = state;
        if (said) events.push(event(said));
      });
    const isSame = after.length === before.length && after.every((one, i) => same(one, before[i]));
    return { places: isSame ? before : after, events };
  }
}

type Judge = (
  close: RungClose,
  band: NamedBand,
  known: PlaceState,
  place: number,
) => { state: PlaceState; said?: Omit<AlertEvent, "at" | "knownAt"> };

/**
 * A wick that arrives: a bar that meets the band, or opens beyond it on the other side, once price has been gone by
 * `leave`.
 */
function arrive(
  close: RungClose,
  band: NamedBand,
  { side: before, armed }: PlaceState,
  leave: number,
  place: number,
): ReturnType<Judge> {
  const { high, low, close: last } = close.bar;
  const side = low > band.top ? 1 : high < band.bottom ? -1 : 0;
  const jumped = side !== 0 && before !== 0 && side !== before;
  const fires = (side === 0 || jumped) && armed;
  const gone = side !== 0 && Math.max(low - band.top, band.bottom - high) >= leave;
  const state = { side: sideOf(last, band) || before, armed: gone || (armed && !fires) };
  return { state, ...(fires ? { said: { what: jumped ? "jump" : "reach", price: last, place, band } } : {}) };
}

/** A close on the other side of a band than the last one that was outside of it. */
function cross({ bar }: RungClose, band: NamedBand, known: PlaceState, place: number): ReturnType<Judge> {
  const side = sideOf(bar.close, band);
  if (side === 0 || side === known.side) return { state: known };
  const state = { ...known, side };
  if (known.side === 0) return { state };
  return { state, said: { what: "beyond", price: bar.close, place, band, direction: side > 0 ? "up" : "down" } };
}

function same(a: PlaceState, b: PlaceState | undefined): boolean {
  return a.side === b?.side && a.armed === b.armed;
}

const sideOf = (price: number, { bottom, top }: NamedBand) => (price > top ? 1 : price < bottom ? -1 : 0);

/** What tells a firing from every other one of its alert. */
export function keyOf({ what, place, direction, knownAt, followUp }: AlertEvent): string {
  if (followUp) {
    const { event, leg = 1, step = 0, target = 0 } = followUp;
    return [event, leg, step, target, knownAt].join(" ");
  }
  return [what === "jump" ? "reach" : what, what === "shift" ? direction : place, knownAt]
    .filter((part) => part !== undefined)
    .join(" ");
}
