import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useState } from "react";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { rungText } from "#core/marks/wording";
import { inHand } from "./kinds.ts";
import { MarkDetails } from "./MarkDetails.tsx";
import type { MarkStore, SaveState } from "./markStore.ts";
import type { StoredPlan } from "./PlanBuilder.tsx";
import { PlanLine } from "./PlanLine.tsx";
import type { Lives } from "./useLives.ts";

/** Loaded when the first plan is written: a form that most visits do not open. */
const PlanBuilder = lazy(async () => ({ default: (await import("./PlanBuilder.tsx")).PlanBuilder }));

interface Props {
  market: MarketFacts;
  rung: string;
  tradable: readonly string[];
  now: number;
  marks: readonly Mark[];
  lives: Lives;
  selected: string | undefined;
  onSelect(id: string | undefined): void;
  store: MarkStore;
  save: SaveState;
  canUndo: boolean;
  canRedo: boolean;
  plans: StoredPlan[];
  shownPlan: string | undefined;
  onShowPlan(id: string | undefined): void;
  onPlans(plans: StoredPlan[]): void;
}

/** The running argument beside the chart: what the marks say, the selected one in full, the scenarios. */
export function Sheet(props: Props) {
  const { market, rung, tradable, now, marks, lives, selected, onSelect, store, plans, shownPlan, onShowPlan, onPlans } = props;
  const [building, setBuilding] = useState<StoredPlan | "new">();
  const chosen = marks.find(({ id }) => id === selected);
  const keep = (stored: StoredPlan) => {
    onPlans([...plans.filter(({ plan }) => plan.id !== stored.plan.id), stored]);
    onShowPlan(stored.plan.id);
    setBuilding(undefined);
  };
  return (
    <Box component="aside" aria-label="Sheet" sx={{ width: 312, flexShrink: 0, bgcolor: "background.paper", borderLeft: 1, borderColor: "divider", overflowY: "auto", px: 2, py: 1.5 }}>
      <SaveLine {...props} />
      <Typography variant="h2">{rungText(rung)}: the argument</Typography>
      {marks.length === 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          Nothing is said yet. Choose a step above the chart, or press its key, and click on the chart.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0, mt: 1 }}>
        {marks.map((mark) => (
          <ArgumentLine key={mark.id} mark={mark} life={lives.get(mark.id)} rung={rung} selected={mark.id === selected} onSelect={() => onSelect(mark.id === selected ? undefined : mark.id)} />
        ))}
      </Box>
      {chosen && (
        <MarkDetails
          key={chosen.id}
          mark={chosen}
          life={lives.get(chosen.id)}
          market={market}
          onChange={(mark) => store.set(mark)}
          onRemove={() => {
            store.remove(chosen.id);
            onSelect(undefined);
          }}
        />
      )}
      <Box sx={{ borderTop: 1, borderColor: "divider", mt: 2, pt: 1.5 }}>
        <Box sx={{ display: "flex", alignItems: "baseline", justifyContent: "space-between" }}>
          <Typography variant="h2">Scenarios</Typography>
          {!building && (
            <Button variant="text" onClick={() => setBuilding("new")}>
              Write one
            </Button>
          )}
        </Box>
        {building ? (
          <Suspense>
            <PlanBuilder
              market={market}
              rung={rung}
              tradable={tradable}
              now={now}
              stored={building === "new" ? undefined : building}
              onSaved={keep}
              onRemoved={(id) => {
                onPlans(plans.filter(({ plan }) => plan.id !== id));
                setBuilding(undefined);
              }}
              onClose={() => setBuilding(undefined)}
            />
          </Suspense>
        ) : (
          plans.map((stored) => (
            <PlanLine
              key={stored.plan.id}
              plan={stored.plan}
              market={market}
              shown={shownPlan === stored.plan.id}
              onShow={() => onShowPlan(shownPlan === stored.plan.id ? undefined : stored.plan.id)}
              onEdit={() => setBuilding(stored)}
            />
          ))
        )}
      </Box>
    </Box>
  );
}

function ArgumentLine({ mark, life, rung, selected, onSelect }: { mark: Mark; life: ReturnType<Lives["get"]>; rung: string; selected: boolean; onSelect(): void }) {
  const origin = mark.rung === rung ? "" : `${rungText(mark.rung)}: `;
  return (
    <Box component="li">
      <Box
        component="button"
        type="button"
        aria-pressed={selected}
        onClick={onSelect}
        sx={{
          display: "flex",
          gap: 1.25,
          width: "100%",
          border: 0,
          p: 0.5,
          font: "inherit",
          fontSize: "0.9rem",
          lineHeight: 1.35,
          textAlign: "left",
          cursor: "pointer",
          color: life?.life.dead ? "text.disabled" : "text.primary",
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
            bgcolor: life?.life.dead ? "transparent" : vars?.palette.compass[inHand(mark.kind)?.pigment(mark) ?? "ink2"],
            border: life?.life.dead ? "1px solid currentColor" : 0,
          })}
        />
        <span>
          {origin}
          {life?.says ?? "..."}
        </span>
      </Box>
    </Box>
  );
}

function SaveLine({ save, store, canUndo, canRedo }: Props) {
  const button = { p: 0, px: 0.75 };
  return (
    <Box sx={{ display: "flex", alignItems: "center", flexWrap: "wrap", mb: 1, minHeight: 24 }}>
      <Typography variant="caption" color="text.secondary" role="status" sx={{ flex: 1 }}>
        {saveText(save)}
      </Typography>
      {save.state === "conflict" ? (
        <>
          <Button sx={button} variant="text" onClick={() => store.settle("theirs")}>
            Take theirs
          </Button>
          <Button sx={button} variant="text" onClick={() => store.settle("ours")}>
            Keep mine
          </Button>
        </>
      ) : (
        <>
          <Button sx={button} variant="text" disabled={!canUndo} onClick={() => store.undo()} title="Ctrl Z">
            Undo
          </Button>
          <Button sx={button} variant="text" disabled={!canRedo} onClick={() => store.redo()} title="Ctrl Shift Z">
            Redo
          </Button>
        </>
      )}
    </Box>
  );
}

function saveText(save: SaveState): string {
  switch (save.state) {
    case "saved":
      return save.at === undefined ? "everything is saved" : `saved ${new Date(save.at).toTimeString().slice(0, 8)}`;
    case "saving":
      return "saving ...";
    case "waiting":
    case "refused":
      return save.sentence;
    case "conflict":
      return "Another analyst changed the same mark. Theirs is stored, yours is on this page.";
  }
}
