import { isDeepStrictEqual } from "node:util";
import { asFollowUp, type FollowUp } from "#core/scenarios/events";
import type { Price } from "#core/conditions/price";
import { isSeveral, type WholeState } from "#core/scenarios/legs";
import type { ScenarioState } from "#core/scenarios/run";
import type { Scenario } from "#core/scenarios/scenario";
import { termsOfFrozen } from "#core/written/read";
import type { Frozen } from "#core/written/written";
import { entrySha, GENESIS, outcomeDigest, partName, type EntryBody, type SealedEntry } from "./entry.ts";
import { digestOf } from "./digest.ts";
import type { ChainFile, RecordFile } from "./file.ts";
import { headFault, type Head } from "./heads.ts";
import { isSigned } from "./keys.ts";
import { assembled, leavesOf } from "./leaves.ts";

/** What of the record is not what it was, in a sentence that names it. */
export type Fault = string;

/**
 * Whether a chain is whole: its entries follow each other without a gap, each is what it was when it was sealed and
 * sealed by a key of this record, and it leads through every head that anybody kept, to the newest of them at least.
 */
export function verifyChain(
  { keys, heads, entries }: Pick<ChainFile, "keys" | "heads" | "entries">,
  kept: readonly Head[] = [],
): Fault[] {
  const faults: Fault[] = [];
  let previous = GENESIS;
  entries.forEach((entry, i) => {
    if (entry.number !== i + 1) faults.push(`Entry ${i + 1} is missing: ${entry.number} stands in its place.`);
    if (entry.previous !== previous)
      faults.push(`Entry ${entry.number} (${partName(entry)}) does not follow the one before.`);
    if (entrySha(entry) !== entry.sha256)
      faults.push(`Entry ${entry.number} (${partName(entry)}) is not what was sealed.`);
    if (!isSigned(entry.sha256, entry.signature, keys[entry.keyId]))
      faults.push(`Entry ${entry.number} (${partName(entry)}) is not signed by a key of this record.`);
    previous = entry.sha256;
  });
  for (const head of [...heads, ...kept]) {
    const wrong = headFault(head, keys);
    if (wrong) faults.push(wrong);
    const entry = entries[head.number - 1];
    if (!entry)
      faults.push(`The record was cut short: it ends with entry ${entries.length}, and head ${head.number} was kept.`);
    else if (entry.sha256 !== head.sha256)
      faults.push(`Entry ${head.number} (${partName(entry)}) is another one than when its head was kept.`);
  }
  return [...new Set(faults)];
}

/** Whether everything is what was entered: the chain, and every edition, picture, follow-up and note against it. */
export function verifyRecord(file: RecordFile, kept: readonly Head[] = []): Fault[] {
  return [
    ...verifyChain(file, kept),
    ...verifyEditions(file),
    ...verifyOutcomes(file),
    ...(file.followed ? verifyFollowed(file, file.followed) : []),
  ];
}

type Key = Pick<EntryBody, "kind" | "edition" | "scenarioId" | "sequence">;
const keyOf = ({ kind, edition, scenarioId, sequence }: Key) => `${kind} ${edition} ${scenarioId} ${sequence}`;

function entriesByPart(entries: readonly SealedEntry[]): Map<string, SealedEntry> {
  return new Map(entries.map((entry) => [keyOf(entry), entry]));
}

/** What an edition froze, as far as it is checked here. */
export interface FrozenContent {
  number?: number;
  previous?: string;
  publishedAt?: string;
  marketTime?: string;
  title?: string;
  sections?: {
    market?: { id?: string };
    picture?: { svg: string; png: string };
    pictures?: Record<string, { svg: string; png?: string }>;
    scenarios?: (Frozen | Scenario)[];
  }[];
  /** Digests of what was said aloud. */
  voices?: string[];
}

/** A block that has a chart, or one for each of its steps; those of steps come behind all others. */
interface Charted {
  section?: object;
  steps?: { section?: object; voice?: { sha256: string } }[];
}

/** The content of a frozen text; empty when it is none. */
export function readFrozen(canonical: string): FrozenContent {
  const leaves = leavesOf(canonical);
  if (leaves) {
    const { blocks = [], ...head } = assembled(leaves) as FrozenContent & { blocks?: (Charted | null)[] };
    const markets = blocks.flatMap((block) => (block?.section ? [block.section] : []));
    const steps = blocks.flatMap((block) => block?.steps ?? []);
    return {
      ...head,
      sections: [...markets, ...steps.flatMap(({ section }) => (section ? [section] : []))],
      voices: steps.flatMap(({ voice }) => (voice ? [voice.sha256] : [])),
    };
  }
  try {
    const value: unknown = JSON.parse(canonical);
    return typeof value === "object" && value !== null ? (value as FrozenContent) : {};
  } catch {
    return {};
  }
}

function verifyEditions({ editions, entries, pictures, voices }: RecordFile): Fault[] {
  const faults: Fault[] = [];
  const known = entriesByPart(entries);
  let previous = GENESIS;
  for (const { number, title, publishedAt, sha256: stated, previousSha256, canonical } of editions) {
    const name = `Edition ${number}`;
    const digest = digestOf(canonical);
    const content = readFrozen(canonical);
    if (digest !== stated) faults.push(`${name}: the text does not fit its hash.`);
    const entry = known.get(keyOf({ kind: "edition", edition: number, scenarioId: "", sequence: 0 }));
    if (!entry) faults.push(`${name} was never entered in the record.`);
    else if (entry.digest !== digest) faults.push(`${name}: the text is not the one that was entered.`);
    if (content.number !== number) faults.push(`${name} says of itself that it is edition ${content.number}.`);
    if (content.previous !== previous || previousSha256 !== previous)
      faults.push(`${name} does not follow from the edition before.`);
    if (content.title !== title) faults.push(`${name}: the title in the list is not the one that was published.`);
    if (Date.parse(content.publishedAt ?? "") !== publishedAt)
      faults.push(`${name}: the list says it was published at another time.`);
    content.sections?.forEach(({ picture, pictures: views = {} }, section) => {
      // Early editions had one picture a section, without a name.
      for (const [view, frozen] of Object.entries<{ svg: string; png?: string }>(
        picture ? { "": picture, ...views } : views,
      )) {
        const stored = pictures.find(
          (one) => one.edition === number && one.section === section && (one.view ?? "") === view,
        );
        const which = view === "" ? "the picture" : `the picture "${view}"`;
        if (!stored) faults.push(`${name}: ${which} of section ${section + 1} is missing.`);
        else if (stored.svg !== frozen.svg || (stored.png ?? undefined) !== frozen.png)
          faults.push(`${name}: ${which} of section ${section + 1} is not the one that was published.`);
      }
    });
    // Record files of before there were recordings hold none of them, and no edition names one.
    for (const voice of content.voices ?? [])
      if (!voices?.some((one) => one.edition === number && one.sha256 === voice))
        faults.push(`${name}: what is said at a step is not what was published.`);
    previous = digest;
  }
  for (const entry of entries)
    if (entry.kind === "edition" && !editions.some(({ number }) => number === entry.edition))
      faults.push(`Edition ${entry.edition} was published and is gone.`);
  return faults;
}

function verifyOutcomes({ followUps, notes, entries }: RecordFile): Fault[] {
  const faults: Fault[] = [];
  const known = entriesByPart(entries);
  const stored = [
    ...followUps.map(({ event, ...rest }) => ({ kind: "followUp" as const, ...rest, content: event as object })),
    ...notes.map(({ note, ...rest }) => ({ kind: "note" as const, ...rest, content: note as object })),
  ];
  const seen = new Set<string>();
  for (const outcome of stored) {
    const name = partName(outcome);
    const entry = known.get(keyOf(outcome));
    seen.add(keyOf(outcome));
    if (!entry) faults.push(`${capital(name)} was never entered in the record.`);
    else if (entry.digest !== outcomeDigest(outcome)) faults.push(`${capital(name)} is not what was entered.`);
  }
  for (const entry of entries)
    if (entry.kind !== "edition" && !seen.has(keyOf(entry)))
      faults.push(`${capital(partName(entry))} was entered and is gone.`);
  return faults;
}

/** Whether what is being followed is what was frozen, and stands where its follow-ups left it. */
function verifyFollowed({ editions, followUps }: RecordFile, followed: NonNullable<RecordFile["followed"]>): Fault[] {
  const faults: Fault[] = [];
  const calls = new Map<number, ReturnType<typeof callsIn>>();
  for (const { number, canonical } of editions) {
    const content = readFrozen(canonical);
    const frozen = callsIn(content);
    calls.set(number, frozen);
    for (const [id, { scenario, market }] of frozen) {
      const name = `Scenario ${id.slice(0, 8)} of edition ${number}`;
      if ("calledIn" in scenario && scenario.calledIn !== undefined) {
        // Editions come in their order: one that is named before it stands names none.
        const before = calls.get(scenario.calledIn)?.get(id)?.scenario;
        if (!before || "calledIn" in before || !isSameCall(before, scenario))
          faults.push(`${name} is not the call of edition ${scenario.calledIn} that it goes on with.`);
        continue;
      }
      const row = followed.find((one) => one.edition === number && one.scenarioId === id);
      if (!row) {
        faults.push(`${name} is followed by nobody.`);
        continue;
      }
      if (row.marketId !== market) faults.push(`${name} is followed on another market.`);
      if (row.since !== Date.parse(content.marketTime ?? ""))
        faults.push(`${name} is followed from another moment on than it was published at.`);
      const own = followUps
        .filter((one) => one.edition === number && one.scenarioId === id)
        .sort((a, b) => a.sequence - b.sequence);
      const wrong = stateFault(
        own.map(({ event }) => asFollowUp(event)),
        row.state,
        scenario,
      );
      const legs = legStates(row.state);
      const isOver = legs.every((leg) => !leg || (leg.phase === "done" && (leg.others?.open.length ?? 0) === 0));
      if (wrong ?? row.done !== isOver)
        faults.push(`${name}: ${wrong ?? "whether it is over"} does not fit what was recorded of it.`);
    }
    for (const row of followed)
      if (row.edition === number && !isCalled(frozen.get(row.scenarioId)?.scenario))
        faults.push(`Scenario ${row.scenarioId.slice(0, 8)} is followed, and edition ${number} does not hold it.`);
  }
  return faults;
}

/** The calls of an edition by their ids, each with the market it is on. */
function callsIn({ sections = [] }: FrozenContent) {
  return new Map(
    sections.flatMap(({ market, scenarios = [] }) =>
      scenarios.map((scenario) => [scenario.id, { scenario, market: market?.id }] as const),
    ),
  );
}

/** Whether it is followed under the edition it stands in. */
const isCalled = (scenario: Frozen | Scenario | undefined) => scenario !== undefined && !("calledIn" in scenario);

const isSameCall = (a: Frozen | Scenario, b: Frozen | Scenario) =>
  isDeepStrictEqual(termsOfFrozen(a), termsOfFrozen(b));

const PHASES: Record<FollowUp["event"], ScenarioState["phase"]> = {
  step: "waiting",
  triggered: "armed",
  entered: "open",
  target: "open",
  breakEven: "open",
  trailed: "open",
  stopped: "done",
  completed: "done",
  invalid: "done",
  expired: "done",
  missed: "done",
  passed: "done",
  cancelled: "done",
};

/** What of a scenario's state its follow-ups do not lead to, leg by leg. */
function stateFault(events: readonly FollowUp[], state: WholeState, scenario: Frozen | Scenario): string | undefined {
  const terms = termsOfFrozen(scenario);
  const stops = isSeveral(terms) ? terms.legs.map(({ stop }) => stop) : [terms.stop];
  const faults = legStates(state).map((leg, i) => {
    const own = isSeveral(terms) ? events.filter((event) => event.leg === i + 1) : events;
    return leg && legFault(own, leg, stops[i]);
  });
  return faults.find((fault) => fault !== undefined);
}

/** The state of each leg; none of one that has not begun, or never will. */
function legStates(state: WholeState): (ScenarioState | undefined)[] {
  return "legs" in state ? state.legs.map((leg) => ("state" in leg ? leg.state : undefined)) : [state];
}

function legFault(
  events: readonly FollowUp[],
  { phase, trade, bound }: ScenarioState,
  stopAsked: Price,
): string | undefined {
  const last = events.at(-1);
  if (phase !== (last ? PHASES[last.event] : "waiting")) return "its state";
  const entered = events.find(({ event }) => event === "entered");
  if (!entered) return undefined;
  if (trade?.fill !== entered.price) return "its entry";
  if (trade.hit !== events.filter(({ event }) => event === "target").length) return "the number of its targets";
  const stop = typeof stopAsked === "number" ? stopAsked : (bound?.stop?.price ?? trade.stop);
  const moved = events.findLast(({ event }) => event === "breakEven" || event === "trailed");
  if (phase === "open" && trade.stop !== (moved?.price ?? stop)) return "its stop";
  const realised = events.findLast(({ r }) => r !== undefined)?.r ?? 0;
  return trade.realised === realised ? undefined : "its result";
}

function capital(text: string): string {
  return text[0].toUpperCase() + text.slice(1);
}
