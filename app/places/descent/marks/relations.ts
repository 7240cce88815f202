import { useQuery } from "@tanstack/react-query";
import type { Relation } from "../../../../server/desk/relation.ts";
import { Refused } from "../../../parts/asked.ts";

export type Related = { relation: Relation } | { sentence: string } | undefined;

/**
 * What two markets cost at an instant and now; `undefined` while it is being asked, a sentence when it cannot be had.
 */
export function useRelation(here: string, there: string | undefined, at: number, asOf: number | undefined): Related {
  const { data, error } = useQuery<Relation>({
    queryKey: [
      `/descent/${here}/relation?to=${encodeURIComponent(there ?? "")}&at=${Math.max(0, Math.round(at))}` +
        (asOf === undefined ? "" : `&asOf=${asOf}`),
    ],
    enabled: there !== undefined,
    staleTime: 0,
  });
  if (error) return { sentence: error instanceof Refused ? error.message : "The two prices could not be had." };
  return data && { relation: data };
}
