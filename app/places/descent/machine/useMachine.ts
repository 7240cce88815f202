import { useMemo, useState } from "react";
import { areasOf, onGrid, successorOf, type Area } from "#core/areas/areas";
import { bandsOfMarks } from "#core/areas/fromMarks";
import { waitingOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import type { RungReading } from "#core/finding/reading";
import type { Mark } from "#core/marks/kind";
import { nearestMarks } from "#core/marks/nearest";
import { lengthOf } from "#core/marks/shown";
import { offeredAreas } from "#core/round/dayPlan";
import type { RangeBasis } from "#core/structure/range";
import type { MarketDesk } from "../marks/desks.ts";
import type { Lives } from "../marks/livesBoard.ts";
import type { PaneView } from "../charts/Pane.tsx";
import type { MarketWorth } from "../../../../server/desk/worth.ts";
import { useWorth } from "../../../parts/worth/useWorth.ts";
import { patternsOfLonger } from "./inSight.ts";
import { useFindings, type Findings } from "./useFindings.ts";
import { useProposals, type Proposals } from "./useProposals.ts";

/** What of it is drawn on the charts of its market. */
export interface OnCharts {
  market: string;
  rungs: readonly RungReading[];
  /** Offers that are walked, on the chart that is worked on. */
  offers: readonly Found[];
  current: string | undefined;
  /** Whether swings are named: while proposals of structure are walked. */
  names: boolean;
  areas: readonly Area[];
  chosen: Area | undefined;
  /** Rungs whose next shift stays in sight on shorter ones. */
  shiftRungs: readonly string[];
}

export interface Machine {
  findings: Findings | undefined;
  proposals: Proposals;
  /** What kinds of findings were worth here: asked for while proposals are walked. */
  worth: MarketWorth;
  areas: readonly Area[];
  /** Whether they are of offers, not of the analyst's marks. */
  areOffers: boolean;
  chosen: Area | undefined;
  choose(area: Area | undefined): void;
  basis: RangeBasis;
  setBasis(basis: RangeBasis): void;
  onCharts: OnCharts;
  /** Asks anew, as after other parameters were chosen. */
  ask(): void;
}

/** Outlines drawn at once; more would be a wall of them. */
const MOST_OUTLINES = 10;
/** Marks areas are made of at most: those nearest to price. */
const MOST_IN_AREAS = 200;
const NONE: readonly Found[] = [];
const NO_AREAS: readonly Area[] = [];
const NO_RUNGS: readonly string[] = [];

/** What the machine reads, offers and sums up for the chart that is worked on. */
export function useMachine(work: {
  desk: MarketDesk;
  view: PaneView | undefined;
  marks: readonly Mark[];
  lives: Lives;
  rung: string;
  asOf: number | undefined;
  shiftRungs?: readonly string[];
  select(ids: string[]): void;
}): Machine {
  const { desk, view, marks, lives, rung, asOf, shiftRungs = NO_RUNGS, select } = work;
  const { id: market, tick } = desk.market;
  const [asked, setAsked] = useState(0);
  const [basis, setBasis] = useState<RangeBasis>("shift");
  const [choice, setChoice] = useState<Area>();
  const series = view?.desk === desk ? view.bars?.series : undefined;
  const findings = useFindings(market, asOf, series?.time.at(-1), asked);
  const facts = findings?.facts ?? NONE;
  const close = series?.close.at(-1) ?? 0;
  const rungs = findings?.rungs;
  const atr = rungs?.find((one) => one.rung === rung)?.atr ?? 0;
  const closed = asOf !== undefined;
  const proposals = useProposals({ facts, marks, store: desk.store, market, rung, closed, close, atr, select });
  // What was worth what is known of today alone: in the past it would tell of what came later.
  const worth = useWorth(market, proposals.open && !closed);
  const own = useMemo(() => {
    const atrs = new Map(rungs?.map((one) => [one.rung, one.atr]));
    const lived = marks.flatMap((mark) => {
      const life = lives.get(mark.id)?.life;
      return life ? [{ mark, life }] : [];
    });
    return areasOf(bandsOfMarks(nearestMarks(lived, close, MOST_IN_AREAS, []), (own) => atrs.get(own))).map((area) =>
      onGrid(area, tick),
    );
    // Which of very many marks are nearest need not be asked at every price.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [marks, lives, rungs, tick]);
  // Before the analyst's own marks make any, what is offered does.
  const offered = useMemo(() => {
    if (own.length > 0 || !rungs) return NO_AREAS;
    const atrOf = (of: string) => rungs.find((one) => one.rung === of)?.atr ?? 0;
    const longer = facts.filter(({ lineage }) => lineage.some((one) => lengthOf(one.rung) >= lengthOf(rung)));
    return offeredAreas(waitingOf(longer, marks), { price: close, tick, unit: atr, atrOf });
    // Which are near need not be asked at every price.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [own, facts, marks, rungs, rung, tick]);
  const areas = own.length > 0 ? own : offered;
  // Areas are made anew with every mark that comes or goes: what was chosen stays chosen while a reason of it stands.
  const chosen = useMemo(() => choice && successorOf(choice, areas), [choice, areas]);
  const current = proposals.current?.key;
  const { open, waiting, step } = proposals;
  const names = open && (step === undefined || step === "structure");
  const walksPatterns = open && (step === undefined || step === "patterns");
  const onCharts = useMemo((): OnCharts => {
    const shown = open ? waiting.filter((fact, i) => i < MOST_OUTLINES || fact.key === current) : NONE;
    const offers = walksPatterns ? [...shown, ...patternsOfLonger(facts, marks, rung)] : shown;
    return { market, rungs: rungs ?? [], offers, current, names, areas, chosen, shiftRungs };
  }, [market, rungs, open, waiting, current, names, areas, chosen, shiftRungs, walksPatterns, facts, marks, rung]);
  return {
    findings,
    proposals,
    worth,
    areas,
    areOffers: own.length === 0,
    chosen,
    choose: setChoice,
    basis,
    setBasis,
    onCharts,
    ask: () => setAsked(asked + 1),
  };
}
