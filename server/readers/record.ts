import Papa from "papaparse";
import { safeCell } from "#core/csv/safe";
import { EDITION_KINDS, KIND_NAMES } from "#core/edition/blocks";
import { canSee } from "#core/edition/parts";
import { figuresOf, GROUPINGS, groupedRecord, type Grouping, type RecordedCall } from "#core/record/groups";
import type { Sight } from "../accounts/plans.ts";
import { callsSeen, type CallLine } from "./calls.ts";

/** What of a record is asked for; everything where nothing is. */
export interface RecordAsked {
  market?: string;
  direction?: "long" | "short";
  kind?: string;
  by: Grouping;
}

/** What an address asks for; what it does not know there is asks for everything. */
export function askedIn(params: URLSearchParams): RecordAsked {
  const market = params.get("market")?.slice(0, 60);
  const direction = (["long", "short"] as const).find((one) => one === params.get("direction"));
  const kind = KIND_NAMES.find((one) => one === params.get("kind"));
  return {
    ...(market ? { market } : {}),
    ...(direction ? { direction } : {}),
    ...(kind ? { kind } : {}),
    by: GROUPINGS.find((one) => one === params.get("by")) ?? "market",
  };
}

/**
 * The figures of what somebody may see, together and by group, and the calls they are of; without figures for who is
 * not shown what calls come to.
 */
export async function recordSeen(asked: RecordAsked, sight: Sight, now: number) {
  const all = await callsSeen(sight, now);
  const markets = [...new Map(all.map(({ market }) => [market.id, market])).values()];
  const calls = firstOfEach(all)
    .filter((call) => isAsked(call, asked))
    .sort((a, b) => b.edition - a.edition);
  const choices = { markets: markets.sort((a, b) => a.name.localeCompare(b.name)) };
  if (!canSee("scenarios+orders", sight.parts)) return { calls, choices };
  const recorded = calls.map(recordedOf);
  return { calls, choices, whole: figuresOf(recorded, "all"), groups: groupedRecord(recorded, asked.by) };
}

/** A call that stood in several editions counts once, as it was published first. */
function firstOfEach(calls: readonly CallLine[]): CallLine[] {
  const first = new Map<string, CallLine>();
  for (const call of calls) {
    const known = first.get(call.scenarioId);
    if (!known || call.edition < known.edition) first.set(call.scenarioId, call);
  }
  return [...first.values()];
}

const isAsked = (call: CallLine, { market, direction, kind }: RecordAsked) =>
  (market === undefined || call.market.id === market) &&
  (direction === undefined || call.direction === direction) &&
  (kind === undefined || call.kind === kind);

function recordedOf({ market, direction, kind, phase, ended, expires }: CallLine): RecordedCall {
  return {
    ...{ market, direction, kind: EDITION_KINDS[kind].name, isOver: phase === "done", at: ended?.at ?? expires },
    ...{ triggered: ended?.r !== undefined, ambiguous: ended?.isAmbiguous ?? false },
    ...(ended ? { end: ended.at } : {}),
    ...(ended?.r === undefined ? {} : { r: ended.r }),
  };
}

const HEAD = ["edition", "market", "title", "kind", "direction", "state", "ended", "result_r", "ambiguous", "says"];

/** Calls as a table (RFC 4180): a line each, times in UTC, what is not known or not shown empty. */
export function recordAsCsv(calls: readonly CallLine[]): string {
  const rows = calls.map(({ edition, market, title, kind, direction, phase, ended }) => [
    ...[edition, safeCell(market.name), safeCell(title), kind, direction, phase === "done" ? "over" : phase],
    ...(ended ? [new Date(ended.at).toISOString(), ended.r ?? "", ended.isAmbiguous ? "yes" : "no"] : ["", "", ""]),
    safeCell(ended?.says ?? ""),
  ]);
  return `${Papa.unparse([HEAD, ...rows], { newline: "\r\n" })}\r\n`;
}
