import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useState, useSyncExternalStore } from "react";
import { bearingsOf } from "#core/marks/bearing";
import { factBehind } from "#core/finding/answer";
import type { Mark } from "#core/marks/kind";
import { isSilent } from "#core/marks/registry";
import { waveEndsOf } from "#core/marks/waveEnds";
import { rungText } from "#core/marks/wording";
import { hasOvernight } from "#core/series/hours";
import { isIntraday } from "#core/time/timeframe";
import { BearingLine } from "./bearings/Bearing.tsx";
import { asCount } from "./counting/useCounts.ts";
import { inHand } from "./marks/kinds.ts";
import type { Lives } from "./marks/livesBoard.ts";
import type { MarkStore, Snapshot } from "./marks/markStore.ts";
import type { PaneView } from "./charts/Pane.tsx";
import type { Written } from "#core/written/written";
import { SheetAside } from "./SheetAside.tsx";
import { draftAt } from "./scenarios/drafts.ts";
import { Scenarios } from "./scenarios/Scenarios.tsx";
import { useSession, useSessionState, useWorkspace } from "./session/context.ts";
import type { CountState } from "#core/marks/count";
import { dateText, momentText } from "../../parts/times.ts";
import { keepColumns } from "./columns/columnRules.ts";
import { saveText } from "./marks/saveText.ts";
import { SeveralMarks } from "./marks/SeveralMarks.tsx";

/** Loaded when they are first wanted: forms that most visits do not open. */
const MachineLines = lazy(async () => ({ default: (await import("./machine/MachineLines.tsx")).MachineLines }));
const AreaList = lazy(async () => ({ default: (await import("./machine/AreaList.tsx")).AreaList }));
const Differences = lazy(async () => ({ default: (await import("./marks/Differences.tsx")).Differences }));
const ColumnPanel = lazy(async () => ({ default: (await import("./columns/ColumnPanel.tsx")).ColumnPanel }));
const StudySection = lazy(async () => ({ default: (await import("./studies/StudySection.tsx")).StudySection }));
const MachineCounts = lazy(async () => ({ default: (await import("./counting/MachineCounts.tsx")).MachineCounts }));
const CountBegin = lazy(async () => ({ default: (await import("./counting/CountBegin.tsx")).CountBegin }));
const MarkDetails = lazy(async () => ({ default: (await import("./marks/MarkDetails.tsx")).MarkDetails }));

interface Props {
  /** The chart that is worked on. */
  view: PaneView;
}

/** Lines of the argument that are listed unless all are asked for. */
const MOST_LINES = 60;

/** The running argument beside the chart: what the marks say, the selected ones in full, the scenarios. */
export function Sheet({ view }: Props) {
  const session = useSession();
  const selected = useSessionState((state) => state.selected);
  const dragged = useSessionState((state) => state.dragged);
  const said = useSessionState((state) => state.said);
  const open = useSessionState((state) => state.open);
  const { log, columns } = useSessionState((state) => state.look);
  const { asOf, now, desks, rungSet, machine, counts, placer, marked, write, studies, markets } = useWorkspace();
  const { desk, rung, calendar, timeframe, argued } = view;
  const { market, store, lives: board } = desk;
  const snapshot = useSyncExternalStore(store.subscribe, store.getSnapshot, store.getSnapshot);
  const lives = useSyncExternalStore(board.subscribe, board.get, board.get);
  const [all, setAll] = useState(false);
  const home = desk === desks.home;
  const labelling = placer.placing?.wave !== undefined && placer.placing.wave.into === undefined;
  const onCopy = () => session.set({ open: "copy" });
  const chosen = argued
    .filter(({ id }) => selected.includes(id))
    .map((mark) => (dragged?.id === mark.id ? dragged : mark));
  const lines = argued.filter((mark) => !isSilent(mark));
  const price = view.bars?.series.close.at(-1) ?? 0;
  const atr = machine.findings?.rungs.find((one) => one.rung === rung)?.atr ?? 0;
  const listed = all ? lines : lines.filter((mark, i) => i < MOST_LINES || selected.includes(mark.id));
  const isDead = (mark: Mark) => lives.get(mark.id)?.life.dead === true;
  // What is chosen, as what was just placed is, is never filed out of sight.
  const isFiled = (mark: Mark) => isDead(mark) && !selected.includes(mark.id);
  const filed = listed.filter(isFiled);
  const ends = argued.flatMap((mark) => {
    const count = isDead(mark) ? undefined : asCount(mark);
    return count ? waveEndsOf(count) : [];
  });
  const otherCounts = (own: Mark) =>
    argued.flatMap((mark) => {
      const count = mark.id === own.id ? undefined : asCount(mark);
      return count ? [{ mark: count, dead: isDead(mark), says: lives.get(mark.id)?.says ?? "..." }] : [];
    });
  const lineOf = (mark: Mark) => (
    <ArgumentLine
      filed={mark === filed.at(0)}
      key={mark.id}
      mark={mark}
      life={lives.get(mark.id)}
      rung={rung}
      selected={selected.includes(mark.id)}
      onSelect={(add) => session.select(selected.length === 1 && selected[0] === mark.id ? [] : [mark.id], add)}
    />
  );
  return (
    <SheetAside width={312}>
      <SaveLine store={store} snapshot={snapshot} />
      {(snapshot.save.state === "conflict" || snapshot.news.length > 0) && (
        <Suspense>
          <Differences store={store} snapshot={snapshot} market={market} />
        </Suspense>
      )}
      {said && (
        <Typography variant="body2" role="status" sx={{ mb: 1 }}>
          {said}
        </Typography>
      )}
      <Typography variant="h2">
        {home ? "" : `${market.name}, `}
        {rungText(rung)}: the argument
      </Typography>
      {labelling && (
        <Suspense>
          <CountBegin counts={counts} onChange={(choice) => counts.begin(undefined, choice)} />
        </Suspense>
      )}
      <BearingLine
        key={`${market.id} ${rung}`}
        rung={rungText(rung)}
        bearing={bearingsOf(argued).get(rung)}
        setting={open === "bearing"}
        onSetting={(setting) => session.set({ open: setting ? "bearing" : undefined })}
        onSet={marked.setBearing}
      />
      {columns && view.bars && (
        <Suspense>
          <ColumnPanel
            rules={columns}
            chart={view.picture?.columns?.chart}
            problem={view.noColumns}
            series={view.bars.series}
            market={market}
            rung={rung}
            when={(time) => (isIntraday(timeframe) ? momentText(time, calendar.spec.zone) : dateText(time))}
            onChange={(rules) => {
              keepColumns(rules);
              session.look({ columns: rules });
            }}
            onTake={(mark) => {
              store.set(mark);
              session.select([mark.id]);
            }}
          />
        </Suspense>
      )}
      <Suspense>
        <MachineLines
          machine={machine}
          market={market}
          rung={rung}
          price={price}
          set={rungSet.id}
          ends={ends}
          answerable={asOf === undefined}
        >
          <Suspense>
            <AreaList
              areas={machine.areas}
              areOffers={machine.areOffers}
              market={market}
              price={price}
              atr={atr}
              chosen={machine.chosen}
              onChoose={machine.choose}
              onReason={(id) => (machine.areOffers ? machine.proposals.choose(id) : session.select([id]))}
              onWriteScenario={home ? (area) => write(draftAt(area, { price, atr, rung, now }, market)) : undefined}
              alertRung={asOf === undefined ? rung : undefined}
            />
          </Suspense>
        </MachineLines>
      </Suspense>
      {lines.length === 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          Nothing is said yet. Choose a step above the chart, or press its key, and click on the chart.
        </Typography>
      )}
      <Box component="ul" aria-label="The argument" sx={{ listStyle: "none", p: 0, m: 0, mt: 1 }}>
        {[...listed.filter((mark) => !isFiled(mark)), ...filed].map(lineOf)}
      </Box>
      {lines.length > listed.length && (
        <Button variant="text" onClick={() => setAll(true)}>
          List all {lines.length}
        </Button>
      )}
      <Suspense>
        {chosen.length === 1 && (
          <MarkDetails
            key={chosen[0].id}
            mark={chosen[0]}
            life={lives.get(chosen[0].id)}
            market={market}
            calendar={calendar}
            intraday={isIntraday(timeframe)}
            asOf={asOf}
            atr={atr}
            behind={factBehind(chosen[0], machine.findings?.facts ?? [])}
            sessionAt={
              isIntraday(timeframe) && hasOvernight(desk.calendar)
                ? (time) => calendar.sessionAt(time)?.kind ?? "closed"
                : undefined
            }
            onChange={(mark) => store.set(mark)}
            onRemove={() => {
              store.remove(chosen[0].id);
              session.select([]);
            }}
            onCopy={onCopy}
            series={view.bars?.series}
            counts={counts}
            others={otherCounts(chosen[0])}
            onSelect={(id) => session.select([id])}
          />
        )}
      </Suspense>
      {counts.machineAt && (
        <Suspense>
          <MachineCounts
            key={JSON.stringify(counts.machineAt)}
            at={counts.machineAt}
            mark={asCount(argued.find(({ id }) => id === counts.machineAt?.mark))}
            pinned={chosen.length === 1 ? Math.min(...chosen[0].anchors.map(({ time }) => time)) : undefined}
            series={view.bars?.series}
            seen={session.seen}
            market={market}
            rung={rung}
            timeframe={timeframe}
            calendar={calendar}
            degree={counts.choice.degree}
            log={log}
            preferred={argued.some((mark) => asCount(mark)?.props.role === "preferred" && !isDead(mark))}
            onShow={counts.look}
            onTake={(mark) => {
              counts.look(undefined);
              store.set(mark);
              session.select([mark.id]);
            }}
            onClose={() => counts.askMachine(undefined)}
          />
        </Suspense>
      )}
      {chosen.length > 1 && (
        <SeveralMarks
          marks={chosen}
          market={market}
          store={store}
          onCopy={onCopy}
          onSelect={(ids, add) => session.select(ids, add)}
        />
      )}
      <Suspense>
        <StudySection
          studies={studies}
          rungs={rungSet.rungs.map((one) => one.rung)}
          rung={rung}
          markets={markets}
          market={market.id}
          says={(one) => view.picture?.studies?.says(one) ?? ""}
          anchor={view.bars?.series.time.at(-Math.min(100, view.bars.series.length)) ?? 0}
          adding={open === "study"}
          onAdding={(adding) => session.set({ open: adding ? "study" : undefined })}
        />
      </Suspense>
      {home && <Scenarios lostOf={(scenario) => lostOf(scenario, store.getSnapshot().marks, lives)} />}
    </SheetAside>
  );
}

/** What became of the count a scenario rests on, when that has died or is gone. */
function lostOf({ restsOn }: Written, marks: readonly Mark[], lives: Lives): string | undefined {
  if (!restsOn) return undefined;
  if (!marks.some(({ id }) => id === restsOn)) return "The count it rests on is gone.";
  const died = (lives.get(restsOn)?.life.state as Partial<CountState> | undefined)?.died?.find(
    ({ at }) => at.length === 0,
  );
  return died && `The count it rests on died on ${dateText(died.time)}: ${died.statement}.`;
}

function ArgumentLine({
  mark,
  life,
  rung,
  selected,
  filed,
  onSelect,
}: {
  filed: boolean;
  mark: Mark;
  life: ReturnType<Lives["get"]>;
  rung: string;
  selected: boolean;
  onSelect(add: boolean): void;
}) {
  const origin = mark.rung === rung ? "" : `${rungText(mark.rung)}: `;
  return (
    <Box component="li">
      {filed && (
        <Typography
          variant="caption"
          component="p"
          color="text.secondary"
          sx={{ borderTop: 1, borderColor: "divider", mt: 0.5, pt: 0.5 }}
        >
          Filed: broken, filled or dead, and off the charts
        </Typography>
      )}
      <Box
        component={ButtonBase}
        disableRipple
        aria-pressed={selected}
        onClick={({ shiftKey, ctrlKey, metaKey }) => onSelect(shiftKey || ctrlKey || metaKey)}
        sx={{
          display: "flex",
          justifyContent: "flex-start",
          alignItems: "flex-start",
          gap: 1.25,
          width: "100%",
          p: 0.5,
          font: "inherit",
          fontSize: "0.9rem",
          lineHeight: 1.35,
          textAlign: "left",
          color: life?.life.dead || mark.hidden ? "text.disabled" : "text.primary",
          bgcolor: selected ? "background.default" : "transparent",
        }}
      >
        <Box
          component="span"
          sx={({ vars }) => ({
            flexShrink: 0,
            width: 10,
            height: 10,
            mt: 0.5,
            bgcolor:
              life?.life.dead || mark.hidden
                ? "transparent"
                : vars?.palette.compass[inHand(mark.kind)?.pigment(mark) ?? "ink2"],
            border: life?.life.dead ? "1px solid currentColor" : 0,
          })}
        />
        <span>
          {origin}
          {life?.says ?? "..."}
          {mark.hidden && " (hidden)"}
          {mark.locked && " (locked)"}
        </span>
      </Box>
    </Box>
  );
}

function SaveLine({ store, snapshot: { save, canUndo, canRedo } }: { store: MarkStore; snapshot: Snapshot }) {
  const button = { p: 0, px: 0.75 };
  return (
    <Box sx={{ display: "flex", alignItems: "center", flexWrap: "wrap", mb: 1, minHeight: 24 }}>
      <Typography variant="caption" color="text.secondary" role="status" sx={{ flex: 1 }}>
        {saveText(save)}
      </Typography>
      <Button sx={button} variant="text" disabled={!canUndo} onClick={() => store.undo()} title="Ctrl Z">
        Undo
      </Button>
      <Button sx={button} variant="text" disabled={!canRedo} onClick={() => store.redo()} title="Ctrl Shift Z">
        Redo
      </Button>
    </Box>
  );
}
