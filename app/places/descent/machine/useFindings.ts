import { useQuery } from "@tanstack/react-query";
import { useDebounce } from "use-debounce";
import type { FindingParams } from "#core/finding/params";
import type { MarketReadings } from "../../../../server/desk/readings.ts";

export type Findings = MarketReadings & { params: FindingParams };

/** Between two questions, so that a market played fast is not asked about at every bar. */
const REST = 1_500;
/** In the past every step is another moment: they are asked about once the walk rests. */
const PAUSE = 500;

/**
 * What the machine reads and offers on the rungs of a market: asked for when the market or the moment changes, when a
 * bar of the chart closes (`last` is the time of its newest one), and when `asked` counts up. While an answer is on its
 * way the one before stands, if it is of the same market and moment.
 */
export function useFindings(
  market: string,
  asOf: number | undefined,
  last: number | undefined,
  asked: number,
): Findings | undefined {
  const [rested] = useDebounce(asOf, PAUSE);
  const [bar] = useDebounce(last, REST, { leading: true, maxWait: REST });
  const address = `/descent/${market}/found${asOf === undefined ? "" : `?asOf=${asOf}`}`;
  return useQuery<Findings>({
    queryKey: [address, bar, asked],
    enabled: last !== undefined && (asOf === undefined || asOf === rested),
    placeholderData: (before, query) => (query?.queryKey[0] === address ? before : undefined),
  }).data;
}
