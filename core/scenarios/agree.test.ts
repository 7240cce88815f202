import { describe, expect, it } from "vitest";
import { bothEvaluators, bothOnLegs } from "#core/testing/bothEvaluators";
import type { PlainPrice } from "#core/testing/plainPrices";
import type { PlainScenario } from "#core/testing/plainScenario";
import { RandomScenarios } from "#core/testing/randomScenarios";

const EVENTS = [
  "step",
  "triggered",
  "entered",
  "target",
  "breakEven",
  "stopped",
  "completed",
  "invalid",
  "expired",
  "cancelled",
  "missed",
  "passed",
];

/** How often something came: a comparison of nothing proves nothing. */
class Seen {
  private readonly counts = new Map<string, number>();

  add(what: string): void {
    this.counts.set(what, (this.counts.get(what) ?? 0) + 1);
  }

  of(what: string): number {
    return this.counts.get(what) ?? 0;
  }
}

const kindOf = (price: PlainPrice | undefined) =>
  typeof price === "object" ? (["line", "previous", "bind", "r"].find((kind) => kind in price) ?? "") : "number";

describe("two evaluators that share nothing", () => {
  it("tell the same of random scenarios over mixed resolutions", { timeout: 90_000 }, () => {
    const random = new RandomScenarios(20261128);
    const seen = new Seen();
    for (let n = 0; n < 3500; n++) {
      const one = random.next();
      const { ours, theirs } = bothEvaluators(one);
      expect(rounded(ours), `case ${n}: ${JSON.stringify(one.scenario)}`).toEqual(rounded(theirs));
      const [events] = ours.events;
      for (const { event, ambiguous } of events) {
        seen.add(event);
        if (ambiguous) seen.add("ambiguous");
      }
      const { entry, stop, targets, if: steps } = one.scenario;
      if (events.some(({ event }) => event === "entered"))
        for (const [field, price] of Object.entries({ entry, stop, target: targets[0].price }))
          seen.add(`entered, ${field} ${kindOf(price)}`);
      const met = events.filter(({ step }) => step !== undefined).length;
      steps.slice(0, met + 1).forEach(({ when }, i) => {
        if (!("price" in when)) return;
        seen.add(`${when.on} ${kindOf(when.price)}`);
        if (i < met) seen.add(`met, ${kindOf(when.price)}`);
      });
    }
    for (const event of EVENTS) expect(seen.of(event), event).toBeGreaterThan(10);
    expect(seen.of("ambiguous")).toBeGreaterThan(100);
    // Prices of every kind were met, and traded at.
    for (const field of ["entry bind", "stop bind", "stop line", "target bind", "target r"])
      expect(seen.of(`entered, ${field}`), field).toBeGreaterThan(5);
    for (const condition of ["close", "hold", "sweep", "touch"])
      for (const kind of ["line", "previous", "bind"])
        expect(seen.of(`${condition} ${kind}`), `${condition} ${kind}`).toBeGreaterThan(3);
    for (const kind of ["line", "previous", "bind"]) expect(seen.of(`met, ${kind}`), kind).toBeGreaterThan(5);
  });

  it("count the risk that was planned where the stop has gone on along its line since", () => {
    // Planned at 97 with the stop at 91; an hour later that line is at 90, and half of the risk is still 3 above 97.
    const hours = [
      [105, 107, 99, 106],
      [106, 112, 105, 111],
      [111, 114, 97, 102],
    ].map(([open, high, low, close], n) => ({ from: n * 60, to: n * 60 + 60, open, high, low, close }));
    const layers = [{ minutes: 60, bars: hours }];
    const line: PlainPrice = {
      line: [
        { time: 0, price: 92 },
        { time: 60, price: 91 },
      ],
      minutes: 60,
    };
    const scenario: PlainScenario = {
      ...{ since: 60, sign: 1, while: [], if: [], unless: [], order: "limit", entry: 97, stop: line },
      ...{ targets: [{ price: 112, share: 1 }], breakEven: 0.5, wrong: 80, expires: 900, cost: 0, through: 0 },
    };
    const { ours, theirs } = bothEvaluators({ layers, scenario });
    expect(rounded(ours)).toEqual(rounded(theirs));
    expect(ours.result).toMatchObject({ r: 0, best: 0.5 });
  });

  it("tell the same of several entries, of which some wait for another", { timeout: 60_000 }, () => {
    const random = new RandomScenarios(7);
    const seen = new Seen();
    for (let n = 0; n < 2000; n++) {
      const one = random.nextLegs();
      const { ours, theirs } = bothOnLegs(one);
      expect(rounded(ours), `case ${n}: ${JSON.stringify(one.scenario)}`).toEqual(rounded(theirs));
      ours.events.forEach((events, leg) => {
        const { after } = one.scenario.legs[leg];
        const traded = events.some(({ event }) => event === "entered");
        if (leg > 0 && traded) seen.add(after ? `entered after ${after.event}` : "entered alone");
      });
    }
    for (const what of ["alone", "after entered", "after target", "after stopped"])
      expect(seen.of(`entered ${what}`), what).toBeGreaterThan(5);
  });
});

function rounded(value: unknown): unknown {
  return JSON.parse(JSON.stringify(value), (_key, one: unknown) =>
    typeof one === "number" ? Math.round(one * 1e9) / 1e9 + 0 : one,
  );
}
