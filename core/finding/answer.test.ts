import { describe, expect, it } from "vitest";
import { dismissalOf, factBehind, markOf, waitingOf } from "#core/finding/answer";
import { findingsOf } from "#core/finding/findings";
import { mergeFindings } from "#core/finding/merge";
import { RungReader } from "#core/finding/reader";
import { followMark } from "#core/marks/follow";
import { movedAnchors } from "#core/marks/foundFrom";
import { kindOf, readMark } from "#core/marks/registry";
import type { Mark } from "#core/marks/kind";
import { contextOf } from "#core/testing/marks";
import { sp500 } from "#core/testing/openData";
import { ALL_HOURS, Calendar } from "#core/time/calendar";

const series = sp500();
const reader = new RungReader(series, { count: 1, unit: "day" }, new Calendar(ALL_HOURS), 0.01);
const facts = mergeFindings([findingsOf(reader)], 0.01, series.close[series.length - 1]);

describe("an offer that is answered", () => {
  it("with a yes becomes a mark that stands at the border, lives, and says what the machine said", () => {
    for (const fact of facts) {
      const mark = markOf(fact, "m", "1");
      const read = readMark(mark);
      expect(read, fact.name).toEqual(mark);
      const life = followMark(mark, contextOf(series));
      expect(kindOf(mark).say(mark, life, contextOf(series).market).length).toBeGreaterThan(5);
      // Nothing is offered that is dead as a mark.
      if (fact.step !== "structure") expect(life.dead, `${fact.name} ${fact.key} ${life.status}`).toBe(false);
    }
  });
  it("with a yes or a no is not offered again, the others are", () => {
    const [first, second, ...rest] = facts;
    const answers = [markOf(first, "m", "1"), dismissalOf(second, "m", "2")];
    expect(waitingOf(facts, answers)).toEqual(rest);
    expect(readMark(answers[1])).toEqual(answers[1]);
  });
  it("is not offered where it was drawn by hand; the machine's edges are told", () => {
    const zone = facts.find(({ kind }) => kind === "zone")!;
    const drawn: Mark = markOf(zone, "m", "1");
    delete drawn.found;
    drawn.anchors = drawn.anchors.map(({ time, price }, i) => ({
      time,
      price: i === 0 ? price + (zone.top - zone.bottom) / 10 : price,
    }));
    expect(waitingOf(facts, [drawn])).not.toContain(zone);
    expect(factBehind(drawn, facts)).toBe(zone);
    expect(
      factBehind({ ...drawn, anchors: drawn.anchors.map(({ time, price }) => ({ time, price: price * 2 })) }, facts),
    ).toBeUndefined();
  });
  it("keeps the machine's edges beside the analyst's own", () => {
    const mark = markOf(
      facts.find(({ kind }) => kind === "zone")!,
      "m",
      "1",
    );
    expect(movedAnchors(mark)).toEqual([]);
    const machine = mark.anchors[1].price;
    const moved = { ...mark, anchors: [mark.anchors[0], { ...mark.anchors[1], price: machine - 1 }] };
    expect(movedAnchors(moved)).toEqual([{ index: 1, machine, own: machine - 1 }]);
  });
  it.each([
    [{ keys: "k" }],
    [{ keys: [""] }],
    [{ keys: ["k"], anchors: Array(9).fill({ time: 1, price: 1 }), lineage: [] }],
    [{ keys: ["k"], anchors: [{ time: "x", price: 1 }], lineage: [] }],
    [{ keys: ["k"], anchors: [], lineage: [{ rung: 5, name: "x" }] }],
  ])("%j is no origin of a mark", (found) => {
    expect(readMark({ ...markOf(facts[0], "m", "1"), found: found as never })).toMatch(/taken over/);
  });
});
