import { createContext, use } from "react";
import { get, set } from "react-hook-form";
import type { MarketFacts } from "#core/marks/kind";
import type { WrittenProblem } from "#core/written/check";
import type { Subject } from "#core/written/subject";
import type { Written, WrittenCondition } from "#core/written/written";

/** What every part of the builder works with. */
export interface Builder {
  draft: Written;
  market: MarketFacts;
  /** Rung that is worked on, a shorter one, and all that conditions may be on. */
  rung: string;
  finer: string;
  rungs: readonly string[];
  close: number;
  /** What stands on the charts, nearest first. */
  subjects: readonly Subject[];
  /** Other markets by their ids. */
  markets: readonly { id: string; name: string }[];
  /** What is wrong at a field of the terms, once it may be said. */
  problemAt(path: string): WrittenProblem | undefined;
  /** Sets a field of the terms by its path: "if[0].when.price". */
  change(path: string, value: unknown): void;
  write(next: Partial<Written>): void;
  replace(draft: Written): void;
}

export const BuilderContext = createContext<Builder | undefined>(undefined);

export function useBuilder(): Builder {
  const builder = use(BuilderContext);
  if (!builder) throw new Error("This stands outside of a builder.");
  return builder;
}

/** A draft with one field of its terms set, or taken away. */
export function withField(draft: Written, path: string, value: unknown): Written {
  const terms = structuredClone(draft.terms);
  if (value === undefined) {
    const [, parent = "", field = path] = /^(.*?)\.?([^.[\]]+)$/.exec(path) ?? [];
    const holder = (parent === "" ? terms : get(terms, parent)) as Record<string, unknown> | undefined;
    if (holder) Reflect.deleteProperty(holder, field);
  } else {
    set(terms, path, value);
    // A touch is of a price or of a band: the one that is said last counts.
    const [, condition = "", field = ""] = /^(.*)\.(price|band)$/.exec(path) ?? [];
    const touched = condition === "" ? undefined : (get(terms, condition) as WrittenCondition | undefined);
    if (touched?.on === "touch") Reflect.deleteProperty(touched, field === "band" ? "price" : "band");
  }
  return { ...draft, terms };
}

/** A field of a draft's terms. */
export const fieldOf = (draft: Written, path: string): unknown => get(draft.terms, path) as unknown;
