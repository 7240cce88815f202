import { isDeepStrictEqual } from "node:util";
import type { ClosedBar } from "#core/observe/closedBar";
import { asFollowUp } from "#core/scenarios/events";
import { termsOfFrozen } from "#core/written/read";
import { readPart } from "../entry.ts";
import type { DeskRecord, RecordFile } from "../file.ts";
import { callsIn, calledIn, readFrozen } from "../frozenContent.ts";
import { subjectOf } from "../subject.ts";
import type { Fault } from "../verify.ts";
import { pagesFault, type ToldFacts, type ToldPage } from "./page.ts";
import { Replay, type Call, type Came } from "./replay.ts";
import { changedRows, type Spans } from "./restatedRows.ts";
import type { ToldRow } from "./rows.ts";
import { reaches, type Tail } from "./tails.ts";

/** Where pages and their bars are read, market by market. */
export interface ToldSource {
  markets(): Promise<string[]>;
  pages(market: string): Promise<ToldPage[]>;
  /** Throws a `RangeError` where the bars are gone or are others. */
  rows(page: ToldPage): Promise<readonly ToldRow[]>;
  /** Whether a page's bars are those that were sealed, without reading them. */
  isWhole(page: ToldPage): boolean;
  /** When bars of a market were changed, as far as that was entered. */
  restated(market: string): Promise<Spans>;
  /** What changes whenever stored bars of a market do, however they were changed. */
  storedKey?(market: string): Promise<string>;
  /** What is stored of a market, told by the facts of a generation; none where nobody has it. */
  stored?(market: string, facts: ToldFacts): Promise<Iterable<ClosedBar> | undefined>;
}

/** A market as it was worked out before: pages that were taken are not taken again. */
interface Worked {
  replay: Replay;
  calls: string;
  /** Digests of the pages that were taken. */
  taken: string[];
  /** What was found of its generations. */
  settled: Map<string, readonly Fault[]>;
}
export type Known = Map<string, Worked>;

type Checked = RecordFile & { desk: DeskRecord };

/**
 * Works out every published call again, from its frozen text and the sealed pages of the bars it was told, and compares
 * what comes of it with what was recorded and with where readers are told that it stands.
 */
export async function verifyCalls(
  file: Checked,
  source: ToldSource,
  tails: readonly Tail[],
  known: Known = new Map(),
): Promise<Fault[]> {
  const calls = callsByMarket(file);
  const faults = strayRows(file, calls);
  const markets = new Set([...calls.keys(), ...(await source.markets()), ...tails.map(({ market }) => market)]);
  const followUps = new Map<string, { sequence: number; event: object }[]>();
  for (const { edition, scenarioId, sequence, event } of file.followUps) {
    const key = subjectOf(edition, scenarioId);
    followUps.set(key, [...(followUps.get(key) ?? []), { sequence, event: asFollowUp(event) }]);
  }
  for (const market of [...markets].sort()) {
    const own = calls.get(market) ?? [];
    const worked = await workedOut(market, own, file, source, tails, known);
    if ("fault" in worked) {
      faults.push(worked.fault);
      continue;
    }
    faults.push(...worked.faults);
    for (const call of own) {
      const came = worked.replay.came(call.subject);
      const recorded = (followUps.get(call.subject) ?? []).sort((a, b) => a.sequence - b.sequence);
      if (came) faults.push(...callFaults(call, came, recorded, file.desk));
    }
  }
  return faults;
}

/** The calls that are followed, by their markets: what editions froze, whatever rows say. */
function callsByMarket({ editions }: RecordFile): Map<string, Call[]> {
  const calls = new Map<string, Call[]>();
  for (const { number, canonical } of editions) {
    const content = readFrozen(canonical);
    for (const [id, call] of callsIn(content)) {
      if (calledIn(call) !== undefined) continue;
      const one = {
        subject: subjectOf(number, id),
        terms: termsOfFrozen(call.scenario),
        since: Date.parse(content.marketTime ?? ""),
      };
      calls.set(call.market ?? "", [...(calls.get(call.market ?? "") ?? []), one]);
    }
  }
  return calls;
}

/** Rows that follow what no edition holds. */
function strayRows({ desk, editions }: Checked, calls: ReadonlyMap<string, readonly Call[]>): Fault[] {
  const own = new Set([...calls.values()].flat().map(({ subject }) => subject));
  return desk.followed
    .filter(({ edition, scenarioId }) => !own.has(subjectOf(edition, scenarioId)))
    .filter(({ edition }) => editions.some(({ number }) => number === edition))
    .map(
      ({ edition, scenarioId }) =>
        `Scenario ${scenarioId.slice(0, 8)} is followed, and edition ${edition} does not hold it.`,
    );
}

async function workedOut(
  market: string,
  calls: readonly Call[],
  file: Checked,
  source: ToldSource,
  tails: readonly Tail[],
  known: Known,
): Promise<{ replay: Replay; faults: Fault[] } | { fault: Fault }> {
  const pages = await source.pages(market);
  const wrong = pagesFault(pages, file.keys) ?? enteredFault(market, pages, file);
  if (wrong !== undefined) return { fault: wrong };
  if (
    !reaches(
      pages.at(-1),
      tails.find((tail) => tail.market === market),
    )
  )
    return { fault: `Pages of what calls on ${market} were told are gone.` };
  if (calls.length > 0 && pages.length === 0)
    return { fault: `What calls on ${market} were told was never kept: what they came to cannot be worked out.` };
  const key = JSON.stringify(calls);
  const before = known.get(market);
  const begun = (): Worked => ({
    replay: new Replay(calls),
    calls: key,
    taken: [],
    settled: before?.settled ?? new Map(),
  });
  known.delete(market);
  try {
    for (const page of pages)
      if (!source.isWhole(page))
        throw new RangeError(
          `The bars of page ${page.number} of what calls on ${market} were told are not those that were sealed.`,
        );
    let state = before?.calls === key && (await goesOn(before, pages, source)) ? before : begun();
    for (const page of pages.slice(Math.max(0, state.taken.length - 1)))
      if (page.sha256 !== state.taken[page.number - 1]) state.replay.take(page, await source.rows(page));
    state = { ...state, taken: pages.map(({ sha256 }) => sha256) };
    const faults = await changedRows(market, pages, source, state.settled);
    known.set(market, state);
    return { replay: state.replay, faults };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { fault: error.message };
  }
}

/** Whether pages are those that were taken before, the last of them perhaps grown, and more. */
async function goesOn({ taken, replay }: Worked, pages: readonly ToldPage[], source: ToldSource): Promise<boolean> {
  const last = pages.at(taken.length - 1);
  if (taken.length === 0 || !last || taken.slice(0, -1).some((sha, i) => pages[i].sha256 !== sha)) return false;
  return last.sha256 === taken.at(-1) || replay.goesOnWith(last, await source.rows(last));
}

/** Whether the chain leads through the pages that were entered in it. */
function enteredFault(market: string, pages: readonly ToldPage[], { entries }: RecordFile): Fault | undefined {
  for (const { kind, part } of entries) {
    if (kind !== "bars" || part === undefined) continue;
    const {
      market: of,
      number,
      sha256,
    } = readPart(part)?.content as { market: string; number: number; sha256: string };
    if (of !== market || pages[number - 1]?.sha256 === sha256) continue;
    return pages[number - 1]
      ? `Page ${number} of what calls on ${market} were told is another one than was entered in the record.`
      : `Page ${number} of what calls on ${market} were told was entered in the record and is gone.`;
  }
  return undefined;
}

function callFaults(
  { subject, since }: Call,
  came: Came,
  recorded: readonly { sequence: number; event: object }[],
  { followed }: DeskRecord,
): Fault[] {
  const [edition, id] = subject.split("/");
  const name = `Scenario ${id.slice(0, 8)} of edition ${edition}`;
  const faults: Fault[] = [];
  const own = recorded.slice(came.before);
  const asWorkedOut = plain(came.events);
  if (!isDeepStrictEqual(plain(own.map(({ event }) => event)), asWorkedOut))
    faults.push(`${name}: its follow-ups are not what its bars lead to.`);
  const row = followed.find((one) => one.edition === Number(edition) && one.scenarioId === id);
  if (!row) return [...faults, `${name} is followed by nobody.`];
  if (row.since !== since) faults.push(`${name} is followed from another moment on than it was published at.`);
  if (!isDeepStrictEqual(plain(row.state), plain(came.state)))
    faults.push(`${name}: where it stands is not what its bars lead to.`);
  if (Boolean(row.done) !== (came.ended !== null) || row.through !== came.ended)
    faults.push(`${name}: whether it is over is not what its bars lead to.`);
  return faults;
}

const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
