import Box from "@mui/material/Box";
import { lazy, Suspense, useMemo, useState } from "react";
import type { Anchor } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { priceText } from "#core/marks/wording";
import { toTick } from "#core/series/tick";
import { KINDS } from "../marks/kinds.ts";
import { droppedMark, owned } from "../marks/workspaceMarks.ts";
import { useSession, useSessionState, useWorkspace } from "../session/context.ts";
import { ChartMenu, type MenuChoice } from "./ChartMenu.tsx";
import { Charts } from "./Charts.tsx";
import { ChartStrip } from "./ChartStrip.tsx";
import type { Shared } from "./Pane.tsx";
import { pictureAddress } from "./view.ts";
import { drawnBeside, drawnScenario, type DrawnScenario } from "../../../../chart/scenario.ts";
import { withHeight } from "../studies/useStudies.ts";
import { withField } from "../scenarios/builder.ts";

/** Loaded when it is first wanted. */
const LevelsBelow = lazy(async () => ({ default: (await import("./LevelsBelow.tsx")).LevelsBelow }));

/** A zone may be said to be one of them; otherwise its candles say which. */
const SIDES = ["demand", "supply"] as const;

interface MenuAt {
  at: { left: number; top: number };
  groups: MenuChoice[][];
}

/** The charts with the strip above them, the table of levels below, and the menu at the cursor. */
export function ChartArea() {
  const session = useSession();
  const { selected, dragged, table, look, shownScenario, building } = useSessionState((state) => state);
  const {
    desks,
    desk,
    view,
    hours,
    asOf,
    now,
    panes,
    placer,
    machine,
    counts,
    marked,
    scenarios,
    standings,
    markets,
    begin,
    studies,
  } = useWorkspace();
  const [menu, setMenu] = useState<MenuAt>();
  const shownOne = scenarios.find(({ scenario: { id } }) => id === shownScenario)?.scenario;
  const drawn = useMemo((): DrawnScenario[] => {
    // What is written stands alone on the chart, with handles at its prices.
    if (building) return [{ ...drawnScenario(building.draft), held: true }];
    if (!shownOne) return [];
    // The others of its set say where price may go instead, unless they are over.
    const away = standings.filter(({ phase }) => phase === "done").map(({ scenarioId }) => scenarioId);
    away.push(shownOne.id);
    const beside = scenarios.filter(({ scenario: { id } }) => !away.includes(id));
    return [...beside.map(({ scenario }) => drawnBeside(scenario)), drawnScenario(shownOne)];
  }, [building, shownOne, scenarios, standings]);
  const shared: Shared = {
    hours,
    asOf,
    now,
    log: look.log,
    columns: look.columns,
    goTo: look.goTo,
    moment: look.moment,
    shown: panes.shown,
    cursor: session.cursor,
    dragged,
    scenarios: drawn,
    studies: studies.chosen,
    machine: machine.onCharts,
    looked: counts.looked,
  };
  const menuFor = (
    pane: number,
    { anchor, instant, mark }: { anchor: Anchor; instant: number; mark: string | undefined },
  ): MenuChoice[][] => [
    ...(mark ? [marked.menu(selected.includes(mark) ? selected : [mark])] : []),
    ...[false, true].map((measures) =>
      KINDS.filter(({ kind }) => (kindOf({ kind }).lines !== undefined) === measures).map(({ kind }) => ({
        name: kindOf({ kind }).title,
        command: kind,
        run: () => begin(kind, { anchor, pane }),
      })),
    ),
    SIDES.map((side) => ({
      name: `${side === "demand" ? "Demand" : "Supply"} zone`,
      run: () => begin("zone", { anchor, pane }, { side }),
    })),
    ...(asOf === undefined ? [[alertChoice(pane, anchor.price)]] : []),
    [{ name: "Hold this moment on every chart", run: () => session.look({ moment: instant }) }],
  ];
  const alertChoice = (pane: number, clicked: number): MenuChoice => {
    const on = session.get().views.get(pane);
    const { market } = on?.desk ?? desk;
    const price = toTick(clicked, market.tick, market.decimals);
    return {
      name: `Alert at ${priceText(price, market)}`,
      run: () =>
        session.set({ open: "alert", alertAt: { market, rung: on?.rung ?? panes.panes[panes.active].rung, price } }),
    };
  };
  return (
    <Box
      sx={{
        ...{ flex: { xs: "none", md: 1 }, height: { xs: "58vh", md: "auto" }, minHeight: { xs: 320, md: 0 } },
        ...{ minWidth: 0, display: "flex", flexDirection: "column" },
      }}
    >
      <ChartStrip />
      <Charts
        panes={panes}
        desks={desks}
        shared={shared}
        markets={markets}
        selected={selected}
        placer={placer}
        fits={look.fits}
        onActivate={(pane) => {
          if (pane === panes.active) return;
          session.select([]);
          panes.activate(pane);
        }}
        onSelect={(ids, add) => session.select(ids, add)}
        onMoment={(moment) => session.look({ moment })}
        onMenu={(pane, what, at) => setMenu({ at, groups: menuFor(pane, what) })}
        onDrag={(mark) => session.set({ dragged: owned(mark) })}
        onDrop={(dropped) => {
          session.set({ dragged: undefined });
          desk.store.set(...dropped.map((mark) => droppedMark(mark, view)));
        }}
        onPrice={(field, price) => {
          if (building) session.set({ building: { ...building, draft: withField(building.draft, field, price) } });
        }}
        onPanel={(panel, height) => {
          const held = view?.picture?.studies?.beneathAt(panel);
          if (held) studies.change(studies.chosen.map((one) => (one === held ? withHeight(one, height) : one)));
        }}
        onView={(seen) => session.see(seen)}
        onChange={(pane, seen) => session.viewed(pane, seen)}
      />
      {table && view?.bars && (
        <Suspense>
          <LevelsBelow
            market={desk.market}
            series={view.bars.series}
            marks={view.picture?.marks ?? []}
            selected={selected}
            onSelect={(id) => session.select([id])}
            address={(format) => pictureAddress(view, session.seen, { format, hours, asOf, scenario: shownScenario })}
            onClose={() => session.set({ table: false })}
          />
        </Suspense>
      )}
      {menu && <ChartMenu {...menu} onClose={() => setMenu(undefined)} />}
    </Box>
  );
}
