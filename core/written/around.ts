import { isSeveral, legTerms, type WholeTerms } from "#core/scenarios/legs";
import { aboutOf, guess } from "#core/written/guess";
import type { Subject } from "#core/written/subject";

/** What lies about a scenario, in price units from where price stands, or from its entry. */
export interface Around {
  /** Each step that is about a price, with how far that is from the close: above 0 upwards. */
  triggers: { step: number; price: number; distance: number }[];
  /** The nearest area or zone against it ahead of its entry. */
  room: { name: string; distance: number } | undefined;
  /** What is left today of the range a day usually has; 0 when it has been made. */
  left: number | undefined;
}

/** `usual`: ATR(14) of the day; `made`: the range of today so far. */
export function aroundOf(
  whole: WholeTerms,
  {
    close,
    subjects,
    usual,
    made,
  }: { close: number; subjects: readonly Subject[]; usual?: number | undefined; made?: number | undefined },
): Around {
  const terms = isSeveral(whole) ? legTerms(whole, whole.legs[0]) : whole;
  const sign = terms.direction === "long" ? 1 : -1;
  const triggers = terms.if.flatMap(({ when }, i) => {
    const price = aboutOf(when, terms.if);
    return price === undefined ? [] : [{ step: i + 1, price, distance: price - close }];
  });
  const entry = guess(terms.entry.price, terms.if) ?? triggers.at(-1)?.price ?? close;
  const ahead = subjects
    .filter(({ band }) => band !== undefined)
    .map(({ name, bottom, top }) => ({ name, distance: sign > 0 ? bottom - entry : entry - top }))
    .filter(({ distance }) => distance > 0)
    .sort((a, b) => a.distance - b.distance);
  return {
    triggers,
    room: ahead[0],
    left: usual === undefined || made === undefined ? undefined : Math.max(0, usual - made),
  };
}
