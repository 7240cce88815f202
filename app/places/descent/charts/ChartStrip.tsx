import Box from "@mui/material/Box";
import { kindOf } from "#core/marks/registry";
import { useNewestFirst } from "../marks/useNewestFirst.ts";
import { drawnOf } from "../marks/workspaceMarks.ts";
import { useAvailable } from "../session/commandRegistry.ts";
import { useSession, useSessionState, useWorkspace } from "../session/context.ts";
import { ChartTools } from "./ChartTools.tsx";
import { Readout } from "./Readout.tsx";

const NONE: readonly string[] = [];

/** Words and read-out have a strip of their own above the charts, so that nothing at the top of a plot is covered. */
export function ChartStrip() {
  const session = useSession();
  const { commands, cursor } = session;
  const can = useAvailable(commands);
  const dragged = useSessionState((state) => state.dragged);
  const open = useSessionState((state) => state.open);
  const look = useSessionState((state) => state.look);
  const { desk, view, placer, now, goToDate } = useWorkspace();
  const { market } = desk;
  const series = view?.bars?.series;
  // While a mark is dragged its rules are checked here, at every move, and the one that broke last is named.
  const [problem] = useNewestFirst(
    dragged && view && series
      ? kindOf(dragged)
          .check(dragged, { series, market, calendar: view.calendar })
          .map(({ sentence }) => sentence)
      : NONE,
  );
  return (
    <Box sx={{ height: 30, flexShrink: 0, position: "relative" }}>
      <Readout
        cursor={cursor}
        placing={placer.placing}
        ruler={placer.ruler}
        problem={problem}
        market={market}
        series={series}
        future={view?.picture?.future ?? []}
        marks={view?.picture?.marks ?? []}
        columns={view?.picture?.columns}
      />
      <ChartTools
        run={(command) => commands.run(command)}
        can={can}
        log={look.log}
        columns={look.columns !== undefined}
        measuring={placer.ruler !== undefined}
        onFit={() => session.look({ fits: look.fits + 1 })}
        drawn={view?.picture && drawnOf(view.picture.marks.length, view.argued)}
        going={open === "date"}
        onGoing={(going) => session.set({ open: going ? "date" : undefined })}
        onGo={(date) => void goToDate(date)}
        last={new Date(series?.time.at(-1) ?? now).toISOString().slice(0, 10)}
      />
    </Box>
  );
}
