import { useQuery } from "@tanstack/react-query";
import type { Hours } from "#core/series/hours";
import type { RungSketch } from "../../../../server/bars/sketches.ts";

const NONE: readonly RungSketch[] = [];

/** Sketches of the rungs of a set, asked for once the chart itself has its bars. */
export function useSketches(
  market: string,
  set: string,
  hours: Hours,
  asOf: number | undefined,
  ready: boolean,
): readonly RungSketch[] {
  const address = `/descent/${market}/sketches?hours=${hours}${asOf === undefined ? "" : `&asOf=${asOf}`}`;
  const { data } = useQuery<RungSketch[]>({
    queryKey: [address, market, set],
    enabled: ready,
    // While the past is walked the last sketches stand until the next ones are there.
    placeholderData: (before, query) =>
      query?.queryKey[1] === market && query.queryKey[2] === set ? before : undefined,
  });
  // A column without sketches is still a column.
  return data ?? NONE;
}
