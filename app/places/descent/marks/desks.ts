import { useEffect, useMemo, useState } from "react";
import type { MarketFacts } from "#core/marks/kind";
import type { CalendarSpec } from "#core/time/calendar";
import { askJson } from "../../../parts/asked.ts";
import { listenLive } from "../../../parts/live.ts";
import { keptSteps } from "./keptSteps.ts";
import { LivesBoard } from "./livesBoard.ts";
import { MarkStore, type Stand } from "./markStore.ts";

/** A market as it lies open on the page: what it is, its marks, and how they fare. */
export interface MarketDesk {
  market: MarketFacts;
  calendar: CalendarSpec;
  store: MarkStore;
  lives: LivesBoard;
}

export interface DeskData extends Stand {
  market: MarketFacts;
  calendar: CalendarSpec;
}

function openDesk(account: string, data: DeskData): MarketDesk {
  const { market, calendar } = data;
  // On the server there is no browser to keep anything in.
  const keeper = typeof indexedDB === "undefined" ? undefined : keptSteps(account, market.id);
  return { market, calendar, store: new MarkStore(market.id, data, keeper), lives: new LivesBoard(market, calendar) };
}

export async function fetchDesk(account: string, market: string): Promise<MarketDesk> {
  const desk = openDesk(account, await askJson<DeskData>(`/descent/${market}/desk`));
  await desk.store.restore();
  return desk;
}

/** Puts the desk of another market to the same moment; until what stood then is there, it shows nothing of its own. */
async function standAt({ market, store }: MarketDesk, asOf: number | undefined): Promise<void> {
  if (asOf === undefined) return store.standAt(undefined);
  store.standAt({ asOf, marks: [] });
  const there = await askJson<DeskData>(`/descent/${market.id}/desk?asOf=${asOf}`).catch(() => undefined);
  const past = there?.past;
  // Another moment may have been asked for meanwhile.
  if (past && store.moment === asOf) store.standAt(past);
}

export interface Desks {
  home: MarketDesk;
  /** The desk of a market; the one that is open when it has no name, `undefined` while another is being fetched. */
  of(market: string): MarketDesk | undefined;
  /** The same, fetched first if it has to be. */
  open(market: string): Promise<MarketDesk>;
}

/** The desks of the market that is open and of those that stand beside it. */
export function useDesks(account: string, data: DeskData, others: readonly string[]): Desks {
  const asOf = data.past?.asOf;
  const [home] = useState(() => openDesk(account, data));
  const [fetched] = useState(() => new Map<string, Promise<MarketDesk>>());
  const [there, setThere] = useState<ReadonlyMap<string, MarketDesk>>(new Map());
  const desks = useMemo((): Desks => {
    const isHome = (market: string) => market === "" || market === home.market.id;
    return {
      home,
      of: (market) => (isHome(market) ? home : there.get(market)),
      open: (market) => {
        if (isHome(market)) return Promise.resolve(home);
        const known = fetched.get(market);
        if (known) return known;
        const coming = fetchDesk(account, market);
        fetched.set(market, coming);
        coming.then(
          (desk) => setThere((now) => new Map(now).set(market, desk)),
          () => fetched.delete(market),
        );
        return coming;
      },
    };
  }, [home, there, fetched, account]);
  useEffect(() => {
    void home.store.restore();
  }, [home]);
  useEffect(() => {
    // A market that cannot be had leaves its chart empty; it is asked for again with the next change of charts.
    for (const market of others) desks.open(market).catch(() => undefined);
  }, [others, desks]);
  useEffect(() => home.store.standAt(data.past), [home, data.past]);
  useEffect(() => {
    for (const desk of there.values()) void standAt(desk, asOf);
  }, [there, asOf]);
  useEffect(
    () =>
      listenLive(({ marked }) => {
        for (const [market, count] of Object.entries(marked)) desks.of(market)?.store.heard(count);
      }),
    [desks],
  );
  return desks;
}
