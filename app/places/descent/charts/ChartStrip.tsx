import Box from "@mui/material/Box";
import type { MarketFacts } from "#core/marks/kind";
import type { LinkedCursor } from "../../../canvas/linkedCursor.ts";
import { ChartTools } from "./ChartTools.tsx";
import type { PaneView } from "./Pane.tsx";
import { Readout } from "./Readout.tsx";
import type { usePlacing } from "../marks/usePlacing.ts";
import { drawnOf } from "../marks/workspaceMarks.ts";

interface Props {
  cursor: LinkedCursor;
  placer: ReturnType<typeof usePlacing>;
  /** The rule that a dragged mark breaks. */
  problem: string | undefined;
  market: MarketFacts;
  view: PaneView | undefined;
  commands: {
    log(): void;
    table(): void;
    shown(): void;
    addChart?: (() => void) | undefined;
    walk?: (() => void) | undefined;
  };
  log: boolean;
  onFit(): void;
  going: boolean;
  onGoing(going: boolean): void;
  onGo(date: string): void;
  now: number;
}

/** Words and read-out have a strip of their own above the charts, so that nothing at the top of a plot is covered. */
export function ChartStrip({
  cursor,
  placer,
  problem,
  market,
  view,
  commands,
  log,
  onFit,
  going,
  onGoing,
  onGo,
  now,
}: Props) {
  const last = view?.bars?.series.time.at(-1);
  return (
    <Box sx={{ height: 30, flexShrink: 0, position: "relative" }}>
      <Readout
        cursor={cursor}
        placing={placer.placing}
        ruler={placer.ruler}
        problem={problem}
        market={market}
        series={view?.bars?.series}
        future={view?.picture?.future ?? []}
        marks={view?.picture?.marks ?? []}
      />
      <ChartTools
        log={log}
        onLog={commands.log}
        measuring={placer.ruler !== undefined}
        onRuler={placer.measure}
        onFit={onFit}
        onTable={commands.table}
        onShown={commands.shown}
        drawn={view?.picture && drawnOf(view.picture.marks.length, view.argued)}
        onAdd={commands.addChart}
        going={going}
        onGoing={onGoing}
        onGo={onGo}
        onWalk={last === undefined ? undefined : commands.walk}
        last={new Date(last ?? now).toISOString().slice(0, 10)}
      />
    </Box>
  );
}
