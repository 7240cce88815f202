import { isFollowed, type Followed, type Frozen, type Written, type WrittenTerms } from "#core/written/written";

/** What a mark says now; `undefined` when it is gone or says it no more. */
export type ValueOf = (followed: Followed) => Followed["value"] | undefined;

/** Where a followed price stands in a scenario, and what it was. */
export interface LostPrice {
  path: string;
  value: Followed["value"];
}

/** A scenario whose prices say what their marks say now, and those whose mark is gone: they keep what it last said. */
export function renewed(written: Written, valueOf: ValueOf): { written: Written; lost: LostPrice[] } {
  const lost: LostPrice[] = [];
  const terms = mapFollowed(written.terms, "", (followed, path) => {
    const value = valueOf(followed);
    if (value === undefined) lost.push({ path, value: followed.value });
    return value === undefined || isSame(value, followed.value) ? followed : { ...followed, value };
  }) as WrittenTerms;
  return { written: terms === written.terms ? written : { ...written, terms }, lost };
}

/** The terms as the contract has them: followed prices are what they say, several orders are legs. */
export function contractOf(terms: WrittenTerms): Record<string, unknown> {
  const { orders, if: steps, ...common } = mapFollowed(terms, "", ({ value }) => value) as WrittenTerms;
  if (orders.length === 1) {
    const { if: own, risk: _, after: __, ...order } = orders[0];
    return { ...common, if: [...steps, ...own], ...order };
  }
  return { ...common, if: steps, legs: orders };
}

/** A scenario as it is published. */
export function frozenOf({ restsOn: _, waived: __, terms, ...written }: Written): Frozen {
  return { ...written, terms: contractOf(terms) };
}

/** Where a fault of the contract's reader stands in what was written: "legs[1].stop" is "orders[1].stop". */
export function pathInWritten(path: string, orders: number): string {
  const own = path.replace(/^scenario\.?/, "").replace(/^legs\b/, "orders");
  const ofOrder = /^(entry|stop|targets|breakEven)\b/.test(own);
  return orders === 1 && ofOrder ? `orders[0].${own}` : own;
}

/** Same things stay the same object, so that what is shown of them is not made anew. */
function mapFollowed(value: unknown, path: string, map: (followed: Followed, path: string) => unknown): unknown {
  if (isFollowed(value)) return map(value, path);
  if (Array.isArray(value)) {
    const next = value.map((one, i) => mapFollowed(one, `${path}[${i}]`, map));
    return next.some((one, i) => one !== value[i]) ? next : value;
  }
  if (typeof value !== "object" || value === null) return value;
  const entries = Object.entries(value).map(([name, one]): [string, unknown, unknown] => [
    name,
    mapFollowed(one, path === "" ? name : `${path}.${name}`, map),
    one,
  ]);
  return entries.some(([, next, one]) => next !== one)
    ? Object.fromEntries(entries.map(([name, next]) => [name, next]))
    : value;
}

function isSame(a: Followed["value"], b: Followed["value"]): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}
