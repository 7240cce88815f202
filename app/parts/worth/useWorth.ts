import { useQuery } from "@tanstack/react-query";
import type { RungWorth } from "#core/measure/worth";
import type { MarketWorth } from "../../../server/desk/worth.ts";

/** While something is being measured it is asked about as often (ms). */
const AGAIN = 3_000;
const NONE: MarketWorth = { rungs: [], measuring: [] };

/** What findings of a market's rungs were worth; begins with what is known, and follows what is being measured. */
export function useWorth(market: string, asked: boolean, known: readonly RungWorth[] = NONE.rungs): MarketWorth {
  const { data } = useQuery<MarketWorth>({
    queryKey: [`/descent/${market}/worth`],
    enabled: asked,
    refetchInterval: ({ state }) => (state.data && state.data.measuring.length > 0 ? AGAIN : false),
  });
  return data ?? { rungs: [...known], measuring: [] };
}
