import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { afterPayment, GRACE, isRunning, PAYMENTS, type Membership, type PaymentEvent } from "#core/readers/membership";

const DAY = 86_400_000;
const told = (events: readonly PaymentEvent[]): Membership | undefined =>
  events.reduce<Membership | undefined>((held, event) => afterPayment(held, event, "free"), undefined);
const trial = { kind: "trial", plan: "member", at: 0, until: 14 * DAY } as const;
const paid = { kind: "paid", plan: "member", at: 13 * DAY, until: 44 * DAY } as const;

describe("a membership", () => {
  it("runs through a trial, what is paid for, and a little grace, and no further", () => {
    const first = told([trial]);
    expect(first && isRunning(first, 14 * DAY - 1)).toBe(true);
    expect(first && isRunning(first, 14 * DAY)).toBe(false);
    const second = told([trial, paid]);
    expect(second).toMatchObject({ state: "paid", before: "free", until: 44 * DAY });
    expect(second && isRunning(second, 44 * DAY + GRACE - 1)).toBe(true);
    expect(second && isRunning(second, 44 * DAY + GRACE)).toBe(false);
  });
  it("whose charge failed runs until its grace ends; one that lapsed or was paid back ends at once", () => {
    const failed = told([trial, paid, { kind: "failed", plan: "member", at: 44 * DAY, until: 51 * DAY }]);
    expect(failed && isRunning(failed, 51 * DAY - 1)).toBe(true);
    expect(failed && isRunning(failed, 51 * DAY)).toBe(false);
    for (const kind of ["lapsed", "refunded"] as const) {
      const over = told([trial, paid, { kind, plan: "member", at: 20 * DAY, until: 90 * DAY }]);
      expect(over && isRunning(over, 20 * DAY)).toBe(false);
    }
  });
  const event: fc.Arbitrary<PaymentEvent> = fc.record({
    kind: fc.constantFrom(...PAYMENTS),
    plan: fc.constantFrom("member", "pro"),
    at: fc.integer({ min: 1, max: 1000 }),
    until: fc.integer({ min: 1, max: 2000 }),
  });
  it("is the same however often and in whatever order it is told what happened last", () => {
    fc.assert(
      fc.property(fc.uniqueArray(event, { selector: ({ at }) => at, minLength: 1, maxLength: 8 }), (events) => {
        const inOrder = events.toSorted((a, b) => a.at - b.at);
        const last = inOrder.at(-1);
        const held = told(inOrder);
        expect(held).toMatchObject({ state: last?.kind, plan: last?.plan, at: last?.at, before: "free" });
        // The last thing counts, whatever comes behind it.
        expect(told([...inOrder, ...events, ...inOrder])).toEqual(held);
        expect(told([...inOrder.slice(-1), ...events])?.state).toBe(last?.kind);
      }),
    );
  });
});
