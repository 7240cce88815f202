import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useEffectEvent, useMemo, useState, useSyncExternalStore } from "react";
import type { Area } from "#core/areas/areas";
import type { RungReading } from "#core/finding/reading";
import { EVERYTHING } from "#core/marks/shown";
import type { BoardRow } from "../../../server/round/board.ts";
import type { StudiesOfSet } from "../../../server/desk/studies.ts";
import { LinkedCursor } from "../../canvas/linkedCursor.ts";
import type { MarketDesk } from "../descent/marks/desks.ts";
import { Pane, type PaneView, type Shared } from "../descent/charts/Pane.tsx";
import { useMachine } from "../descent/machine/useMachine.ts";

interface Props {
  desk: MarketDesk;
  row: BoardRow;
  rung: string;
  now: number;
  /** What the chart says of the rung once it is there. */
  onRead(read: { reading: RungReading | undefined; areas: readonly Area[]; price: number | undefined }): void;
}

const NOTHING: readonly string[] = [];
// One and the same: a chart is drawn anew with every other list.
const NO_SCENARIOS: Shared["scenarios"] = [];
const NO_STUDIES: StudiesOfSet = { chosen: [], looks: [] };
const NO_MARKETS: readonly { id: string; name: string }[] = [];
const SHOWN = { ...EVERYTHING, dead: false };
const QUIET = { onAnchor() {}, onSelect() {}, onMoment() {}, onMenu() {}, onDrag() {}, onDrop() {}, onView() {} };

/**
 * The chart of a stop: bars, the analyst's live marks, areas and the next shift, to be looked at and not to be drawn
 * on.
 */
export function WalkChart({ desk, row, rung, now, onRead }: Props) {
  const [view, setView] = useState<PaneView>();
  const [cursor] = useState(() => new LinkedCursor());
  const { marks } = useSyncExternalStore(desk.store.subscribe, desk.store.getSnapshot, desk.store.getSnapshot);
  const lives = useSyncExternalStore(desk.lives.subscribe, desk.lives.get, desk.lives.get);
  const here = view?.desk === desk && view.rung === rung ? view : undefined;
  const machine = useMachine({ desk, view: here, marks, lives, rung, asOf: undefined, select() {} });
  // Those of the rungs in use, as they stand on every market.
  const { data: { chosen } = NO_STUDIES } = useQuery<StudiesOfSet>({ queryKey: ["/studies"] });
  const own = machine.areas;
  // Until there are marks, the areas of what the machine offers, as on the board.
  const offered = useMemo(
    () =>
      (row.standing?.around ?? []).map(({ bottom, top, weight, rungs }): Area => ({
        bottom,
        top,
        weight,
        rungs,
        reasons: [],
      })),
    [row.standing],
  );
  const areas = own.length > 0 ? own : offered;
  const reading = machine.findings?.rungs.find((one) => one.rung === rung);
  const close = here?.bars?.series.close.at(-1);
  const said = useMemo(() => ({ reading, areas, price: close }), [reading, areas, close]);
  const tell = useEffectEvent(onRead);
  useEffect(() => tell(said), [said]);
  const shared: Shared = {
    hours: "all",
    asOf: undefined,
    now,
    log: false,
    columns: undefined,
    goTo: undefined,
    moment: undefined,
    shown: SHOWN,
    cursor,
    dragged: undefined,
    looked: undefined,
    scenarios: NO_SCENARIOS,
    studies: chosen,
    machine: { ...machine.onCharts, areas },
  };
  const place = useMemo(() => ({ id: 0, market: "", rung }), [rung]);
  const onChange = useCallback((next: PaneView) => setView(next), []);
  return (
    <Pane
      shared={shared}
      desk={desk}
      place={place}
      name="1"
      active
      alone
      markets={NO_MARKETS}
      selected={NOTHING}
      placing={undefined}
      measured={undefined}
      fits={0}
      handlers={QUIET}
      onActivate={() => undefined}
      onMarket={() => undefined}
      onClose={() => undefined}
      onChange={onChange}
    />
  );
}
