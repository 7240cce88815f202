import { describe, expect, it } from "vitest";
import { PatternDetector } from "#core/patterns/detector";
import { PATTERN_NAMES, PATTERNS, type PatternName } from "#core/patterns/registry";
import { priceOn, type PatternShape } from "#core/patterns/shape";
import { barAt, slice, type Series } from "#core/series/series";
import { run, Track } from "#core/series/track";
import { sp500 } from "#core/testing/openData";
import { turned } from "#core/testing/mirror";

// Open data: S&P 500, carried by vega-datasets (npm).
const series = slice(sp500(), 0, 1_500);

function found(bars: Series, tick = 0.01) {
  const track = new Track(bars, tick);
  const detector = new PatternDetector(track);
  run(track, [detector]);
  return detector.found;
}
const told = (list: ReturnType<typeof found>) =>
  list.map(({ name, sign, turns, knownAt, life: { state, confirmedAt, retestedAt, endedAt, way } }) => ({
    ...{ name, sign, turns: turns.map(({ index }) => index), knownAt },
    ...{ state, confirmedAt, retestedAt, endedAt, way },
  }));

describe("patterns on real bars", () => {
  const whole = found(series);
  it("are of many kinds, keep their rules, and are known after their last turn", () => {
    expect(new Set(whole.map(({ name }) => name)).size).toBeGreaterThan(7);
    for (const { rules, turns, knownAt, life } of whole) {
      expect(rules.filter(({ holds }) => !holds)).toEqual([]);
      expect(knownAt).toBeGreaterThan(turns[turns.length - 1].index);
      expect(life.confirmedAt ?? knownAt).toBeGreaterThanOrEqual(knownAt);
    }
  });
  it("are told only while no close has left them yet", () => {
    for (const { form, sign, turns, knownAt } of whole)
      for (let j = turns[turns.length - 1].index; j < knownAt; j++) {
        const close = sign * series.close[j];
        expect(close <= priceOn(form.confirm, j) && close >= priceOn(form.against, j)).toBe(true);
      }
  });
  it("end both ways", () => {
    const states = whole.map(({ life }) => life.state);
    for (const state of ["met", "failed", "negated"])
      expect(states.filter((one) => one === state).length).toBeGreaterThan(3);
    expect(whole.filter(({ life }) => life.retestedAt !== undefined).length).toBeGreaterThan(3);
  });
  it("later bars change nothing that was known; one bar more is the same as all at once", () => {
    const track = new Track(slice(series, 0, 0), 0.01);
    const detector = new PatternDetector(track);
    for (let i = 0; i < series.length; i++) {
      track.push(barAt(series, i));
      run(track, [detector], i);
      if (i % 150 === 149) expect(told(detector.found)).toEqual(told(found(slice(series, 0, i + 1))));
    }
    expect(told(detector.found)).toEqual(told(whole));
  });
  it("mirrored prices turn them upside down", () => {
    const flipped = told(found(turned(series, (price) => 4_000 - price)));
    const isEither = (name: PatternName) => (PATTERNS[name] as PatternShape).isEither === true;
    const back = flipped.map((one) => ({
      ...one,
      sign: isEither(one.name) ? one.sign : -one.sign,
      way: one.way === undefined ? undefined : -one.way,
    }));
    const inOrder = (list: object[]) => list.map((one) => JSON.stringify(one)).sort();
    expect(inOrder(back)).toEqual(inOrder(told(whole)));
  });
  it("prices and tick times 1024 change nothing", () =>
    expect(
      told(
        found(
          turned(series, (price) => price * 1024),
          10.24,
        ),
      ),
    ).toEqual(told(whole)));
  it("of one name and way never two stand over the same bars at once", () => {
    const clash = whole.filter((a, n) =>
      whole.slice(0, n).some(({ name, sign, turns, life }) => {
        const isLive = life.endedAt === undefined || life.endedAt > a.knownAt;
        const shared =
          Math.min(turns.at(-1)!.index, a.turns.at(-1)!.index) - Math.max(turns[0].index, a.turns[0].index);
        const length = Math.min(turns.at(-1)!.index - turns[0].index, a.turns.at(-1)!.index - a.turns[0].index);
        return name === a.name && sign === a.sign && isLive && shared > length / 2;
      }),
    );
    expect(clash).toEqual([]);
  });
  it("only those asked for are looked for", () => {
    const track = new Track(series, 0.01);
    const detector = new PatternDetector(track, ["flag"]);
    run(track, [detector]);
    expect(new Set(detector.found.map(({ name }) => name))).toEqual(new Set(["flag"]));
  });
});

it("every pattern is named both ways and names its points and its source", () => {
  for (const name of PATTERN_NAMES) {
    const { title, points, source }: PatternShape = PATTERNS[name];
    expect(title.every((text) => text.length > 3)).toBe(true);
    expect(points.length).toBeGreaterThanOrEqual(4);
    expect(source).toMatch(/memory|common practice/);
  }
});
