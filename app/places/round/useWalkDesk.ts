import { useEffect, useRef, useState } from "react";
import { barsAddress } from "../../parts/barPages.ts";
import { fetchDesk, type MarketDesk } from "../descent/desks.ts";
import type { Stop } from "#core/round/walk";

/** Desks kept while the walk goes on: the one that is looked at, those just before and the next. */
const MOST = 6;

/**
 * The desk of the market that is looked at; that of the next stop and its bars are fetched ahead, so that the next key
 * finds them there.
 */
export function useWalkDesk(account: string, market: string, next: Stop | undefined): { desk: MarketDesk | undefined; trouble: boolean } {
  const coming = useRef(new Map<string, Promise<MarketDesk>>());
  const [held, setHeld] = useState<{ market: string; desk: MarketDesk }>();
  const [failed, setFailed] = useState<string>();
  const ahead = next?.market;
  const aheadRung = next?.rung;
  useEffect(() => {
    let left = false;
    const want = (id: string) => {
      const known = coming.current.get(id);
      if (known) return known;
      const fetched = fetchDesk(account, id);
      coming.current.set(id, fetched);
      fetched.catch(() => coming.current.delete(id));
      for (const old of [...coming.current.keys()].slice(0, -MOST)) coming.current.delete(old);
      return fetched;
    };
    want(market).then(
      (desk) => !left && setHeld({ market, desk }),
      () => !left && setFailed(market),
    );
    return () => void (left = true);
  }, [account, market]);
  useEffect(() => {
    if (ahead === undefined || aheadRung === undefined) return;
    // After the present stop has been drawn.
    const timer = setTimeout(() => {
      void fetch(barsAddress({ market: ahead, rung: aheadRung, hours: "all" })).then((response) => response.arrayBuffer(), () => undefined);
      if (ahead !== market && !coming.current.has(ahead)) {
        const fetched = fetchDesk(account, ahead);
        coming.current.set(ahead, fetched);
        fetched.catch(() => coming.current.delete(ahead));
      }
    }, 120);
    return () => clearTimeout(timer);
  }, [account, market, ahead, aheadRung]);
  return { desk: held?.market === market ? held.desk : undefined, trouble: failed === market };
}
