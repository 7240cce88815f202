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
