import type { MarketFacts } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import { rText } from "#core/scenarios/say";
import type { Scenario } from "#core/scenarios/scenario";
import { sayTerms } from "#core/scenarios/sayTerms";
import { figuresOf, type OrderFigures } from "#core/written/figures";
import { guess } from "#core/written/guess";
import { termsOfFrozen } from "#core/written/read";
import type { Frozen } from "#core/written/written";
import { utcText } from "../../parts/times.ts";

/** A price of a call, as its table has it. */
export interface CallPrice {
  name: string;
  price: number;
  text: string;
  /** What it comes to; empty where that says nothing. */
  r: string;
}

/** What a scenario says and its figures: those a plan does not show are left out, and that is said. */
export function figuresIn(
  scenario: Frozen | Scenario,
  market: MarketFacts,
  close: number,
): { says: string; rows: CallPrice[] } {
  if (!hasOrders(scenario)) {
    const { direction, wrong } = ((scenario as Partial<Frozen>).terms ?? {}) as { direction?: string; wrong?: unknown };
    const rows = typeof wrong === "number" ? [wrongRow(direction, wrong, market)] : [];
    return { says: "Its entries, stops and targets are for other plans than yours.", rows };
  }
  const terms = termsOfFrozen(scenario);
  const { orders } = figuresOf(terms, market, { close });
  const wrong = guess(terms.wrong, terms.if);
  const rows = orders.flatMap((order, i) =>
    order ? rowsOf(order, market, orders.length > 1 ? `${i + 1}. ` : "") : [],
  );
  return {
    says: sayTerms(terms, market, utcText),
    rows: [...rows, ...(wrong === undefined ? [] : [wrongRow(terms.direction, wrong, market)])],
  };
}

/** Whether its entries are there; they are cut out of what a plan without them is given. */
function hasOrders(scenario: Frozen | Scenario): boolean {
  const holder: object = "terms" in scenario ? scenario.terms : scenario;
  return "entry" in holder || "legs" in holder;
}

function rowsOf({ entry, about, stop, targets }: OrderFigures, market: MarketFacts, before: string): CallPrice[] {
  const named = (name: string, isAbout: boolean) => `${before}${name}${isAbout ? ", about" : ""}`;
  return [
    { name: named("Entry", about), price: entry, text: priceText(entry, market), r: "" },
    { name: named("Stop", stop.about), price: stop.price, text: priceText(stop.price, market), r: rText(stop.r) },
    ...targets.map(({ price, share, r, about: isAbout }, i) => ({
      name: named(`Target ${i + 1}, ${percentText(share, 0)}`, isAbout),
      ...{ price, text: priceText(price, market), r: rText(r) },
    })),
  ];
}

function wrongRow(direction: string | undefined, wrong: number, market: MarketFacts): CallPrice {
  const text = `${direction === "long" ? "below" : "above"} ${priceText(wrong, market)}`;
  return { name: "\u00d7 Wrong", price: wrong, text, r: "" };
}
