import { useCallback, useEffect, useRef, useState } from "react";
import { loadAhead } from "../../parts/barPages.ts";
import { fetchDesk, type MarketDesk } from "../descent/marks/desks.ts";
import type { Stop } from "#core/round/walk";

/** Desks kept while the walk goes on: the one that is looked at, those just before and the next. */
const MOST = 6;

/**
 * The desk of the market that is looked at; that of the next stop and its bars are fetched ahead, so that the next key
 * finds them there.
 */
export function useWalkDesk(
  account: string,
  market: string,
  next: Stop | undefined,
): { desk: MarketDesk | undefined; trouble: boolean } {
  const coming = useRef(new Map<string, Promise<MarketDesk>>());
  const [held, setHeld] = useState<{ market: string; desk: MarketDesk }>();
  const [failed, setFailed] = useState<string>();
  const ahead = next?.market;
  const aheadRung = next?.rung;
  const want = useCallback(
    (id: string) => {
      const known = coming.current.get(id);
      if (known) return known;
      const fetched = fetchDesk(account, id);
      coming.current.set(id, fetched);
      fetched.catch(() => coming.current.delete(id));
      for (const old of [...coming.current.keys()].slice(0, -MOST)) coming.current.delete(old);
      return fetched;
    },
    [account],
  );
  useEffect(() => {
    let left = false;
    want(market).then(
      (desk) => !left && setHeld({ market, desk }),
      () => !left && setFailed(market),
    );
    return () => void (left = true);
  }, [want, market]);
  useEffect(() => {
    if (ahead === undefined || aheadRung === undefined) return;
    // After the present stop has been drawn.
    const timer = setTimeout(() => {
      loadAhead({ market: ahead, rung: aheadRung, hours: "all" });
      if (ahead !== market) void want(ahead).catch(() => undefined);
    }, 60);
    return () => clearTimeout(timer);
  }, [want, market, ahead, aheadRung]);
  return { desk: held?.market === market ? held.desk : undefined, trouble: failed === market };
}
