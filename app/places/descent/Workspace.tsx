import Box from "@mui/material/Box";
import { useState } from "react";
import { hasOvernight } from "#core/series/hours";
import { ChartArea } from "./charts/ChartArea.tsx";
import { OpenedOver } from "./charts/OpenedOver.tsx";
import { Guide } from "./Guide.tsx";
import { MarketLine } from "./MarketLine.tsx";
import { WalkLine } from "./past/WalkLine.tsx";
import { RungColumn } from "./rungs/RungColumn.tsx";
import { useSketches } from "./rungs/useSketches.ts";
import { SessionContext, useSessionState, WorkContext } from "./session/context.ts";
import { DescentSession } from "./session/descentSession.ts";
import { useWork, type Opened } from "./session/useWork.ts";
import { ScenarioSheet } from "./scenarios/ScenarioSheet.tsx";
import { Sheet } from "./Sheet.tsx";

/** The workspace of one market: rungs, charts and Sheet around one set of marks. */
export function Workspace(opened: Opened) {
  const [session] = useState(() => new DescentSession());
  return (
    <SessionContext value={session}>
      <Places {...opened} />
    </SessionContext>
  );
}

function Places(opened: Opened) {
  const work = useWork(opened);
  const folded = useSessionState((state) => state.folded);
  const building = useSessionState((state) => state.building);
  const { desks, desk, view, marks, rung, rungSet, hours, asOf, panes, present } = work;
  const place = panes.panes[panes.active];
  const sketches = useSketches(desks.home.market.id, rungSet.id, hours, asOf, view?.bars !== undefined);
  return (
    <WorkContext value={work}>
      <MarketLine
        home={desks.home.market}
        markets={work.markets}
        view={view}
        rung={rung}
        readings={work.machine.findings?.rungs ?? []}
        known={marks}
        horizons={work.horizons}
        onHorizons={work.setHorizons}
        placing={work.placer.placing}
        begin={work.begin}
        now={work.now}
        hours={hasOvernight(desk.calendar) ? hours : undefined}
        asOf={asOf}
      />
      <Guide />
      {asOf !== undefined && (
        <WalkLine
          asOf={asOf}
          present={present}
          zone={desks.home.calendar.zone}
          rung={rung}
          step={work.walk.step}
          goTo={(instant) =>
            work.goToView(opened.rung, instant !== undefined && instant < present ? instant : undefined, true)
          }
        />
      )}
      <Box
        sx={{
          ...{ flex: 1, minHeight: 0, display: "flex" },
          // On a phone the rungs stand over the chart, and the argument below it.
          ...{ flexDirection: { xs: "column", md: "row" }, overflowY: { xs: "auto", md: "visible" } },
        }}
      >
        <RungColumn
          set={rungSet}
          sets={opened.rungSets}
          sketches={sketches}
          rung={rung}
          hours={hours}
          asOf={asOf}
          marks={marks}
          beside={panes.panes.map((one) => one.rung)}
          onChoose={(next) => place.market !== "" && (panes.toRung(next), true)}
        />
        <ChartArea />
        {view &&
          !folded &&
          (building && desk === desks.home ? <ScenarioSheet building={building} /> : <Sheet view={view} />)}
      </Box>
      <OpenedOver />
    </WorkContext>
  );
}
