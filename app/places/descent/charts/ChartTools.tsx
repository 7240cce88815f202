import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useEffect, useRef } from "react";

interface Props {
  log: boolean;
  onLog(): void;
  measuring: boolean;
  onRuler(): void;
  onFit(): void;
  onTable(): void;
  /** What the charts show is chosen at the button. */
  onShown(button: HTMLElement): void;
  /** How many marks are drawn where not all are. */
  drawn: { some: number; of: number } | undefined;
  /** One more chart; none when there are enough. */
  onAdd: (() => void) | undefined;
  /** Whether a date is being asked for. */
  going: boolean;
  onGoing(going: boolean): void;
  onGo(date: string): void;
  /** Begins to walk through the past, unless that is done already. */
  onWalk: (() => void) | undefined;
  /** Date of the last bar. */
  last: string;
}

/** How the chart is looked at: a few words in its corner, each with a key. */
export function ChartTools({
  log,
  onLog,
  measuring,
  onRuler,
  onFit,
  onTable,
  onShown,
  drawn,
  onAdd,
  going,
  onGoing,
  onGo,
  onWalk,
  last,
}: Props) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (going) field.current?.focus();
  }, [going]);
  return (
    <Box
      role="group"
      aria-label="View"
      sx={{
        position: "absolute",
        top: 2,
        right: 8,
        display: "flex",
        alignItems: "center",
        zIndex: 1,
        "& .MuiButton-root": { px: 0.75, minWidth: 0 },
      }}
    >
      {going ? (
        <TextField
          type="date"
          inputRef={field}
          defaultValue={last}
          onBlur={() => onGoing(false)}
          onKeyDown={(event) => {
            if (event.key === "Escape") onGoing(false);
            if (event.key !== "Enter") return;
            onGo((event.target as HTMLInputElement).value);
            onGoing(false);
          }}
          slotProps={{ htmlInput: { "aria-label": "Go to a date", max: "2999-12-31" } }}
          sx={{ width: 140, px: 1 }}
        />
      ) : (
        <Button variant="text" onClick={() => onGoing(true)} title="Go to a date (G)">
          Go to
        </Button>
      )}
      {onWalk && (
        <Button variant="text" onClick={onWalk} title="Put the desk to a past moment and walk on bar by bar (B)">
          Walk
        </Button>
      )}
      <Button variant="text" onClick={onRuler} aria-pressed={measuring} title="Measure between two points (M)">
        Ruler
      </Button>
      <Button variant="text" onClick={onLog} aria-pressed={log} title="Equal ratios take equal room (Y)">
        {log ? "Log" : "Linear"}
      </Button>
      <Button variant="text" onClick={onTable} title="Table of levels, and this view as a file (T)">
        Table
      </Button>
      <Button
        variant="text"
        data-shown
        onClick={(event) => onShown(event.currentTarget)}
        title="Choose what the charts show (U)"
      >
        {drawn ? `Shown ${drawn.some} of ${drawn.of}` : "Shown"}
      </Button>
      {onAdd && (
        <Button variant="text" onClick={onAdd} title="One more chart, a rung lower (A)">
          Beside
        </Button>
      )}
      <Button variant="text" onClick={onFit} title="Fit prices to the bars in view (0)">
        Fit
      </Button>
    </Box>
  );
}
