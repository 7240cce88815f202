import type { RuleHistoryDto } from "#contracts/scenario";
import { asInstant, EVER } from "#core/observe/instant";
import type { Told } from "#core/scenarios/follow";
import { isSeveral } from "#core/scenarios/legs";
import { readWrittenTerms } from "#core/written/readWritten";
import { termsOfWritten } from "#core/written/read";
import { DAY } from "#core/time/dates";
import { findMarket } from "../bars/markets.ts";
import { readClock } from "../clock.ts";
import { Failure } from "../failure.ts";
import { runTask } from "../pool/pool.ts";
import type { RuleFound } from "../tasks/ruleHistory.ts";
import { toldOf } from "../watch/told.ts";

/** Entries at random times a rule is compared with. */
const DRAWS = 400;

/** Runs a rule over a market's past in a process of its own; stops when nobody waits for it any more. */
export async function ruleHistoryOf(
  marketId: string,
  { terms: asked, days, from, to, seed }: RuleHistoryDto,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<RuleFound> {
  const market = await findMarket(marketId);
  const written = readWrittenTerms(asked);
  const terms = termsOfWritten({ terms: written });
  if (isSeveral(terms))
    throw new Failure("several", "A scenario of several orders has no history of its own.", {
      kept: "Nothing was changed.",
      remedy: "Look at one order of it at a time.",
    });
  const { now } = await readClock();
  const until = asInstant(Math.min(to ?? now, now));
  const { also = {}, ...told } = await toldOf(market, terms, until);
  const first = told.layers.map(({ series }) => series.time.at(0)).filter((time) => time !== undefined);
  const ship = (one: Told) => ({ ...one, calendar: one.calendar.spec });
  return runTask(
    "ruleHistory",
    {
      terms: written,
      tick: market.tick,
      zone: market.calendar.zone,
      told: ship(told),
      also: Object.fromEntries(Object.entries(also).map(([id, one]) => [id, { ...ship(one), tick: one.tick }])),
      from: from === undefined ? (first.length > 0 ? asInstant(Math.min(...first)) : EVER) : asInstant(from),
      to: until,
      life: days * DAY,
      seed,
      draws: DRAWS,
    },
    signal,
    onProgress,
  );
}
