import type { Scenario } from "#core/scenarios/scenario";
import type { Frozen } from "#core/written/written";
import { assembled, leavesOf } from "./leaves.ts";

/** What an edition froze, as far as it is checked here. */
export interface FrozenContent {
  number?: number;
  previous?: string;
  kind?: string;
  publishedAt?: string;
  marketTime?: string;
  /** When the last of its markets has closed after it was published (ISO 8601). */
  closesAt?: string;
  title?: string;
  corrects?: { number: number };
  sections?: {
    market?: { id?: string; name?: string };
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

/** A call as an edition froze it, and the market it is on. */
export interface FrozenCall {
  scenario: Frozen | Scenario;
  market: string | undefined;
}

/** The calls of an edition by their ids. */
export function callsIn({ sections = [] }: FrozenContent): Map<string, FrozenCall> {
  return new Map(
    sections.flatMap(({ market, scenarios = [] }) =>
      scenarios.map((scenario) => [scenario.id, { scenario, market: market?.id }] as const),
    ),
  );
}

/** The edition whose call it goes on with; none of one that is followed under its own. */
export const calledIn = ({ scenario }: FrozenCall): number | undefined => (scenario as { calledIn?: number }).calledIn;
