import { ConditionFault } from "#core/conditions/fields";
import type { MarketFacts } from "#core/marks/kind";
import { plainNumber, priceText } from "#core/marks/wording";
import { isOnGrid } from "#core/series/tick";
import { pathInWritten } from "#core/written/ground";
import { termsOfWritten } from "#core/written/read";
import { visit } from "#core/written/visit";
import { plainOf, type Written, type WrittenCondition, type WrittenTerms } from "#core/written/written";

export interface WrittenProblem {
  /** The field it stands at: "if[0].when.price", "orders[0].stop", "expires"; "" for the whole. */
  path: string;
  sentence: string;
  /** Faults stop a scenario from being saved and published, warnings only speak up. */
  severity: "fault" | "warning";
}

interface Facts {
  market: Pick<MarketFacts, "tick" | "decimals">;
  /** The market's clock (ms UTC). */
  now: number;
  /** Names by which other markets are known. */
  markets?: readonly string[];
}

/** What is wrong with a scenario as it is written: every fault at its field, those of its shape first. */
export function checkWritten(written: Written, facts: Facts): WrittenProblem[] {
  const { terms } = written;
  const shape = shapeProblems(written);
  const problems = [
    ...(written.title.trim() === "" ? [fault("title", "A scenario has a name.")] : []),
    ...shape,
    ...orderProblems(terms),
    ...(shape.length === 0 ? contradictions(terms, facts.market) : []),
    ...(Date.parse(terms.expires) <= facts.now
      ? [fault("expires", "It would have lapsed already on the market's clock.")]
      : []),
    ...otherMarkets(terms, facts.markets),
    ...offGrid(terms, facts.market),
  ];
  return problems.filter(({ path, sentence }, i) => {
    const first = problems.findIndex((one) => one.path === path && one.sentence === sentence);
    return first === i;
  });
}

const fault = (path: string, sentence: string): WrittenProblem => ({ path, sentence, severity: "fault" });
const warning = (path: string, sentence: string): WrittenProblem => ({ path, sentence, severity: "warning" });

/** Prices that are still missing, and whatever else the contract's reader refuses. */
function shapeProblems(written: Written): WrittenProblem[] {
  const missing: WrittenProblem[] = [];
  visit(written.terms, "", (value, path) => {
    if (value === null && !MAY_BE_MISSING.test(path)) missing.push(fault(path, "A price is missing here."));
  });
  if (missing.length > 0) return missing;
  try {
    termsOfWritten(written);
    return [];
  } catch (error) {
    if (!(error instanceof ConditionFault)) throw error;
    const [, path = "", rest = error.message] = /^"([^"]+)" (.*)$/.exec(error.message) ?? [];
    const at = pathInWritten(path || (/"([^"]+)"/.exec(error.message)?.[1] ?? ""), written.terms.orders.length);
    return [fault(at, path ? `It ${rest}` : error.message)];
  }
}

const MAY_BE_MISSING = /(^|\.)(breakEven|trail)$/;

function orderProblems(terms: WrittenTerms): WrittenProblem[] {
  const { direction, wrong } = terms;
  const sign = direction === "long" ? 1 : -1;
  const [behind, ahead] = sign > 0 ? ["below", "above"] : ["above", "below"];
  const out: WrittenProblem[] = [];
  terms.orders.forEach(({ entry, stop, targets }, i) => {
    const at = (field: string) => `orders[${i}].${field}`;
    const from = plainOf(entry.price);
    const prices = targets.map(({ price }) => plainOf(price));
    const [stopAt, wrongAt] = [plainOf(stop), plainOf(wrong)];
    if (from !== undefined && stopAt !== undefined && sign * (from - stopAt) <= 0)
      out.push(fault(at("stop"), `The stop of a ${direction} stands ${behind} its entry.`));
    if (from !== undefined && wrongAt !== undefined && sign * (from - wrongAt) <= 0)
      out.push(fault("wrong", `A ${direction} is wrong ${behind} its entry, not ${ahead} it.`));
    prices.forEach((price, n) => {
      if (price === undefined) return;
      const before = prices.slice(0, n).findLast((one) => one !== undefined);
      if (from !== undefined && sign * (price - from) <= 0)
        out.push(fault(at(`targets[${n}].price`), `A target of a ${direction} stands ${ahead} its entry.`));
      else if (before !== undefined && sign * (price - before) <= 0)
        out.push(fault(at(`targets[${n}].price`), `Target ${n + 1} stands beyond the one before.`));
    });
  });
  return out;
}

/** The closes that a condition asks for: beyond a price, on one side, of a rung. */
interface Beyond {
  side: "above" | "below";
  price: number;
  rung: string | undefined;
}

function beyondOf(condition: WrittenCondition): Beyond | undefined {
  const price = plainOf(condition.price as number);
  if (price === undefined || (condition.on !== "close" && condition.on !== "hold")) return undefined;
  return { side: condition.side as Beyond["side"], price, rung: condition.rung as string | undefined };
}

/** Steps that can never be met, because something else that the scenario says ends it before. */
function contradictions(terms: WrittenTerms, market: Pick<MarketFacts, "decimals">): WrittenProblem[] {
  const out: WrittenProblem[] = [];
  const holds = terms.while.map(beyondOf).filter((one) => one !== undefined);
  const unless = terms.unless.map((one) => JSON.stringify(one));
  const wrong = plainOf(terms.wrong);
  const long = terms.direction === "long";
  const steps = [
    ...terms.if.map(({ when }, i) => ({ when, path: `if[${i}].when` })),
    ...terms.orders.flatMap(({ if: own }, n) =>
      own.map(({ when }, i) => ({ when, path: `orders[${n}].if[${i}].when` })),
    ),
  ];
  for (const { when, path } of steps) {
    if (unless.includes(JSON.stringify(when)))
      out.push(fault(path, "This step is what ends the scenario, too: it stands under Unless."));
    const asks = beyondOf(when);
    const against = asks && holds.find((hold) => hold.rung === asks.rung && excludes(hold, asks));
    if (against)
      out.push(
        fault(
          path,
          `It cannot come while every close is ${against.side} ${priceText(against.price, market)}, as While asks.`,
        ),
      );
    const reach = wrong === undefined ? undefined : furthestAsked(when, long);
    if (wrong !== undefined && reach !== undefined && (long ? reach < wrong : reach > wrong))
      out.push(fault(path, `Price would be ${long ? "below" : "above"} where it is wrong before this step comes.`));
  }
  return out;
}

function excludes(hold: Beyond, asks: Beyond): boolean {
  if (hold.side === asks.side) return false;
  return asks.side === "below" ? asks.price <= hold.price : asks.price >= hold.price;
}

/** How far against the trade price must go for a condition to be met at all. */
function furthestAsked(when: WrittenCondition, long: boolean): number | undefined {
  const price = plainOf(when.price as number);
  if (price === undefined) return undefined;
  if (when.on === "touch") return price;
  if (when.on === "sweep" && when.side === (long ? "low" : "high")) return price;
  if ((when.on === "close" || when.on === "hold") && when.side === (long ? "below" : "above")) return price;
  return undefined;
}

function otherMarkets(terms: WrittenTerms, markets: readonly string[] | undefined): WrittenProblem[] {
  if (!markets) return [];
  const out: WrittenProblem[] = [];
  visit(terms, "", (value, path) => {
    const { on, market } = (value ?? {}) as Partial<WrittenCondition>;
    if (on === "market" && !markets.includes(market as string))
      out.push(
        fault(`${path}.market`, `There is no market "${String(market)}" any more; choose another or leave it out.`),
      );
  });
  return out;
}

function offGrid(terms: WrittenTerms, { tick }: Pick<MarketFacts, "tick">): WrittenProblem[] {
  const out: WrittenProblem[] = [];
  visit(terms, "", (value, path) => {
    if (typeof value !== "number" || !PRICE.test(path) || isOnGrid(value, tick)) return;
    out.push(
      warning(
        path,
        `${plainNumber(value)} lies between two prices of the market, which moves by ${plainNumber(tick)}.`,
      ),
    );
  });
  return out;
}

const PRICE = /(^|\.)(price|stop|wrong)$/;
