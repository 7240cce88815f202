import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import type { ReactNode, Ref } from "react";
import { countText, priceText } from "#core/marks/wording";

type State = "idle" | "counting" | "done" | "cancelled" | "failed";

interface Props {
  title: string;
  state: State;
  /** Counts that were found, and the milliseconds it took. */
  found: number;
  took: number;
  /** Share that is counted, where it is known. */
  done?: number;
  /** What to do where no count keeps the rules. */
  none: string;
  ready: boolean;
  onCount(): void;
  onCancel(): void;
  onClose(): void;
  /** What is chosen before it counts, and how. */
  fields?: ReactNode;
  choice?: ReactNode;
  children: ReactNode;
  ref?: Ref<HTMLElement>;
}

/** The panel counts by machine are asked for in, watched and cancelled. */
export function CountPanel(props: Props) {
  const { title, state, found, took, done, none, ready, fields, choice, children, ref } = props;
  return (
    <Box
      component="section"
      ref={ref}
      aria-label="Counted by machine"
      sx={{ borderTop: 1, borderColor: "divider", mt: 1.5, pt: 1 }}
    >
      <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3">{title}</Typography>
        <Button variant="text" sx={{ px: 0.75, py: 0, minWidth: 0 }} onClick={props.onClose}>
          Close
        </Button>
      </Box>
      {fields}
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 0.75 }}>
        {state === "counting" ? (
          <Button variant="outlined" onClick={props.onCancel}>
            Cancel
          </Button>
        ) : (
          <Button variant="contained" disabled={!ready} onClick={props.onCount}>
            Count
          </Button>
        )}
        {choice}
        <Typography variant="caption" color="text.secondary" role="status">
          {statusText(state, found, took, none)}
        </Typography>
      </Box>
      {state === "counting" && (
        <LinearProgress
          aria-label="Share counted"
          sx={{ mt: 0.5 }}
          {...(done === undefined ? {} : { variant: "determinate", value: done * 100 })}
        />
      )}
      {children}
    </Box>
  );
}

function statusText(state: State, count: number, took: number, none: string): string {
  switch (state) {
    case "counting":
      return count > 0 ? `${countText(count, "count")} at first sight` : "Counting";
    case "done":
      return count > 0
        ? `${countText(count, "count")} in ${priceText(took / 1000, { decimals: 1 })} s`
        : `No count keeps the rules here: ${none}.`;
    case "cancelled":
      return "Cancelled; what was found stands.";
    case "failed":
      return "The counting ended with a fault; nothing was changed.";
    default:
      return "";
  }
}
