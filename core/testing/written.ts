import { writtenOf } from "#core/written/former";
import type { Scenario } from "#core/scenarios/scenario";
import { emptyOrder, emptyWritten, type Written, type WrittenOrder, type WrittenTerms } from "#core/written/written";

/** 1 Jan 2024, and the facts most checks are made with. */
export const NOW = Date.UTC(2024, 0, 1);
export const facts = { market: { tick: 0.1, decimals: 1 }, now: NOW };

/** A long from 100 by limit once a day closes above 101: stop 98, half at 104 and half at 106, wrong below 97. */
export function aWritten(terms: Partial<WrittenTerms> = {}, order: Partial<WrittenOrder> = {}): Written {
  const written = emptyWritten("00000000-0000-4000-8000-000000000001", NOW + 86_400_000);
  return {
    ...written,
    title: "A",
    terms: {
      ...written.terms,
      if: [{ when: { on: "close", side: "above", price: 101, rung: "P1D" } }],
      orders: [
        {
          ...emptyOrder(),
          entry: { order: "limit", price: 100 },
          stop: 98,
          targets: [
            { price: 104, share: 0.5 },
            { price: 106, share: 0.5 },
          ],
          ...order,
        },
      ],
      wrong: 97,
      ...terms,
    },
  };
}

/** A scenario of the first format: long at 2 after a day has closed above it, stop 1, target 3, wrong below 1. */
export function aFirst(change: Partial<Scenario> = {}): Scenario {
  return {
    id: crypto.randomUUID(),
    title: "A",
    premise: "",
    direction: "long",
    trigger: { event: "closeAbove", price: 2, timeframe: "P1D" },
    entry: { order: "market", price: 2 },
    stop: 1,
    targets: [{ price: 3, share: 1 }],
    invalidation: 1,
    expiry: 8e14,
    ...change,
  };
}

/** The same as it is written today. */
export const aFormer = (change: Partial<Scenario> = {}): Written => writtenOf(aFirst(change));
