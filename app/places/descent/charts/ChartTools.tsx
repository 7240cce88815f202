import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useEffect, useRef } from "react";

interface Props {
  /** Runs one of the page's commands; those that can be run now. */
  run(command: string): void;
  can: ReadonlySet<string>;
  log: boolean;
  columns: boolean;
  measuring: boolean;
  onFit(): void;
  /** How many marks are drawn where not all are. */
  drawn: { some: number; of: number } | undefined;
  /** Whether a date is being asked for. */
  going: boolean;
  onGoing(going: boolean): void;
  onGo(date: string): void;
  /** Date of the last bar. */
  last: string;
}

/** How the chart is looked at: a few words in its corner, each with a key. */
export function ChartTools({ run, can, log, columns, measuring, onFit, drawn, going, onGoing, onGo, last }: Props) {
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
        right: { xs: 0, md: 8 },
        left: { xs: 8, md: "auto" },
        overflowX: { xs: "auto", md: "visible" },
        whiteSpace: "nowrap",
        display: "flex",
        alignItems: "center",
        zIndex: 1,
        "& .MuiButton-root": { px: 0.75, minWidth: 0, flexShrink: 0 },
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
      {can.has("walk") && (
        <Button
          variant="text"
          onClick={() => run("walk")}
          title="Put the desk to a past moment and walk on bar by bar (B)"
        >
          Walk
        </Button>
      )}
      <Button
        variant="text"
        onClick={() => run("ruler")}
        aria-pressed={measuring}
        title="Measure between two points (M)"
      >
        Ruler
      </Button>
      <Button variant="text" onClick={() => run("log")} aria-pressed={log} title="Equal ratios take equal room (Y)">
        {log ? "Log" : "Linear"}
      </Button>
      <Button
        variant="text"
        onClick={() => run("columns")}
        aria-pressed={columns}
        title="Columns of boxes in place of bars (\\)"
      >
        {columns ? "Columns" : "Bars"}
      </Button>
      <Button variant="text" onClick={() => run("table")} title="Table of levels, and this view as a file (T)">
        Table
      </Button>
      <Button variant="text" data-shown onClick={() => run("shown")} title="Choose what the charts show (U)">
        {drawn ? `Shown ${drawn.some} of ${drawn.of}` : "Shown"}
      </Button>
      {can.has("addChart") && (
        <Button variant="text" onClick={() => run("addChart")} title="One more chart, a rung lower (A)">
          Beside
        </Button>
      )}
      <Button variant="text" onClick={onFit} title="Fit prices to the bars in view (0)">
        Fit
      </Button>
    </Box>
  );
}
