import { bearing } from "#core/marks/bearing";
import { channel } from "#core/marks/channel";
import { count } from "#core/marks/count";
import { readCopyOf } from "#core/marks/equivalent";
import { dismissal } from "#core/marks/dismissal";
import { fittedLevel } from "#core/marks/fittedLevel";
import { readFoundFrom } from "#core/marks/foundFrom";
import { gap } from "#core/marks/gap";
import { birthOf, type Mark, type MarkKind } from "#core/marks/kind";
import { level } from "#core/marks/level";
import { anchoredAverage } from "#core/marks/measuring/anchoredAverage";
import { arcs } from "#core/marks/measuring/arcs";
import { cycle } from "#core/marks/measuring/cycle";
import { divergence } from "#core/marks/measuring/divergence";
import { extension } from "#core/marks/measuring/extension";
import { measuredMove } from "#core/marks/measuring/measuredMove";
import { projection } from "#core/marks/measuring/projection";
import { regressionChannel } from "#core/marks/measuring/regressionChannel";
import { speedLines } from "#core/marks/measuring/speedLines";
import { swingChannel } from "#core/marks/measuring/swingChannel";
import { timeRatios } from "#core/marks/measuring/timeRatios";
import { note } from "#core/marks/note";
import { path } from "#core/marks/path";
import { pool } from "#core/marks/pool";
import { pattern } from "#core/marks/pattern";
import { isPrice } from "#core/marks/price";
import { retracement } from "#core/marks/retracement";
import { structure } from "#core/marks/structure";
import { trendLine } from "#core/marks/trendLine";
import { zone } from "#core/marks/zone";
import { isInstant } from "#core/time/dates";

/** Kinds that charts draw and that stand in the argument, in the order they are listed in. */
const DRAWN = {
  level,
  fittedLevel,
  trendLine,
  channel,
  swingChannel,
  regressionChannel,
  structure,
  pool,
  gap,
  zone,
  divergence,
  retracement,
  projection,
  extension,
  measuredMove,
  timeRatios,
  speedLines,
  arcs,
  cycle,
  anchoredAverage,
  count,
  pattern,
  path,
  note,
};

/** Kinds that draw nothing. */
const SILENT = { bearing, dismissal };

/** Every kind there is. Whoever tells something of each is a table over these: one left out does not compile. */
export type DrawnKind = keyof typeof DRAWN;
export type KindName = DrawnKind | keyof typeof SILENT;

/** What a kind keeps is its own business: here it is asked by name. */
const KINDS = { ...DRAWN, ...SILENT } as unknown as Readonly<Record<KindName, MarkKind>>;

export const markKinds: readonly MarkKind[] = Object.values(KINDS);

const kinds = new Map<string, MarkKind>(Object.entries(KINDS));

/** Kinds by names they once had: editions that were frozen then still say so. */
const FORMER: Readonly<Record<string, string>> = { impulse: "count" };

/** The name a kind has today. */
export function kindNamed(name: string): string {
  return FORMER[name] ?? name;
}

/** The kind of that name; `undefined` if there is none (data from elsewhere). */
export function findKind(name: string): MarkKind | undefined {
  return kinds.get(kindNamed(name));
}

/** The kind of a mark that is already known to be one. Throws RangeError otherwise. */
export function kindOf(mark: Pick<Mark, "kind">): MarkKind {
  const kind = findKind(mark.kind);
  if (!kind) throw new RangeError(`There is no kind of mark named "${mark.kind}".`);
  return kind;
}

/** Whether a mark draws nothing and is no line of the argument. */
export function isSilent(mark: Pick<Mark, "kind">): boolean {
  return findKind(mark.kind)?.silent === true;
}

/** Instant after which bars can act on a mark, and before which it is not known. */
export function bornAt(mark: Mark): number {
  return kindOf(mark).birth === "first" ? mark.anchors[0].time : birthOf(mark);
}

/** The rung whose bars a mark is followed over: its own, or a finer one that parts of it were made on. */
export function followedOn(mark: Mark): string {
  return kindOf(mark).followedOn?.(mark) ?? mark.rung;
}

/** A mark from untrusted parts: its props read, its number of anchors checked; a sentence if it is none. */
export function readMark(raw: Omit<Mark, "props"> & { props: Record<string, unknown> }): Mark | string {
  const kind = findKind(raw.kind);
  if (!kind) return `There is no kind of mark named "${raw.kind}".`;
  const props = kind.readProps(raw.props, raw.anchors.length);
  if (!props) return `The details of the ${kind.title.toLowerCase()} cannot be read.`;
  const most = kind.most ?? (kind.complete ? Math.max(2, kind.anchors.most) : kind.anchors.most);
  if (raw.anchors.length < kind.anchors.least || raw.anchors.length > most)
    return `A ${kind.title.toLowerCase()} has ${kind.anchors.least} to ${most} anchors, not ${raw.anchors.length}.`;
  if (raw.anchors.some(({ time, price }) => !isInstant(time) || !isPrice(price)))
    return "An anchor's time is no date, or its price no number.";
  const { locked, hidden, copied, found, ...rest } = raw;
  const origin = copied === undefined || copied === null ? undefined : readCopyOf(copied);
  if (copied && !origin) return "Where the mark was copied from cannot be read.";
  const offered = found === undefined || found === null ? undefined : readFoundFrom(found);
  if (found && !offered) return "What the mark was taken over from cannot be read.";
  return {
    ...rest,
    kind: kind.kind,
    props,
    ...(offered ? { found: offered } : {}),
    ...(locked ? { locked } : {}),
    ...(hidden ? { hidden } : {}),
    ...(origin ? { copied: origin } : {}),
  };
}
