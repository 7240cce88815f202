import { KIND_NAMES, type EditionKind } from "#core/edition/blocks";
import type { FollowUpName } from "#core/scenarios/events";

/** What of a followed call is told to readers who want it, by what happened. */
export const MOMENTS = {
  triggered: { name: "Triggered or entered", events: ["triggered", "entered"] },
  target: { name: "A target reached", events: ["target", "completed"] },
  stop: { name: "Stopped, or the stop moved", events: ["stopped", "breakEven", "trailed"] },
  wrong: { name: "Wrong, lapsed or given up", events: ["invalid", "expired", "cancelled", "missed", "passed"] },
} as const satisfies Record<string, { name: string; events: readonly FollowUpName[] }>;

export type MomentName = keyof typeof MOMENTS;
export const MOMENT_NAMES = Object.keys(MOMENTS) as MomentName[];

/** Hours of a day in which nothing is sent, from an hour up to another (0 to 23), in the reader's zone. */
export interface QuietHours {
  from: number;
  to: number;
}

/** What a reader is told, by which ways, and how pages are read. */
export interface ReaderChoices {
  /** Whether mail comes at all; programs of a reader's own are told the same. */
  mail: boolean;
  /** Why mail was ended, where that was not the reader's choice. */
  ended?: "failed" | "complained";
  /** Once a week, by mail: what was published and what became of it. */
  digest: boolean;
  /** Kinds of edition that are told. */
  kinds: EditionKind[];
  /** Ids of markets; none for all. Editions without a market come in any case. */
  markets: string[];
  moments: MomentName[];
  corrections: boolean;
  quiet: QuietHours | null;
  /** IANA name of the zone times are shown in. */
  zone: string;
  /** Larger type on every page. */
  larger: boolean;
}

/** What a reader has who has chosen nothing: every edition by mail, and no moment. */
export const CHOICES: ReaderChoices = {
  mail: true,
  digest: false,
  kinds: KIND_NAMES,
  markets: [],
  moments: [],
  corrections: true,
  quiet: null,
  zone: "UTC",
  larger: false,
};

/** What was chosen, as it was stored (JSON, read or not), over what everybody has who chose nothing. */
export function choicesFrom(stored: Partial<ReaderChoices> | string | null | undefined): ReaderChoices {
  const chosen = typeof stored === "string" ? (JSON.parse(stored) as Partial<ReaderChoices>) : stored;
  return { ...CHOICES, ...chosen };
}

const HOUR = 3_600_000;

/**
 * When something may be sent that is due at an instant: then, or at the end of the quiet hours it falls into. `hourOf`
 * gives the hour (with its fraction) on the clock of the reader's zone.
 */
export function whenSent(due: number, quiet: QuietHours | null, hourOf: (instant: number) => number): number {
  if (!quiet || quiet.from === quiet.to) return due;
  const hour = hourOf(due);
  const isWithin =
    quiet.from < quiet.to ? hour >= quiet.from && hour < quiet.to : hour >= quiet.from || hour < quiet.to;
  if (!isWithin) return due;
  return due + ((quiet.to - hour + 24) % 24) * HOUR;
}

export interface Chosen {
  kind: EditionKind;
  markets: readonly string[];
  corrects: boolean;
}

/** Whether a reader wants an edition by mail. */
export function wantsEdition({ kinds, markets, corrections }: ReaderChoices, edition: Chosen): boolean {
  if (edition.corrects) return corrections;
  const isOfTheirs =
    markets.length === 0 || edition.markets.length === 0 || edition.markets.some((id) => markets.includes(id));
  return kinds.includes(edition.kind) && isOfTheirs;
}

/** Whether a reader wants to be told of something that happened to a call on a market. */
export function wantsMoment({ moments, markets }: ReaderChoices, market: string, event: FollowUpName): boolean {
  if (markets.length > 0 && !markets.includes(market)) return false;
  return moments.some((name) => (MOMENTS[name].events as readonly FollowUpName[]).includes(event));
}
