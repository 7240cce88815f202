import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import FormGroup from "@mui/material/FormGroup";
import Popover from "@mui/material/Popover";
import Typography from "@mui/material/Typography";
import type { Shown } from "#core/marks/shown";
import { KINDS } from "../marks/kinds.ts";

interface Props {
  anchor: HTMLElement | null;
  shown: Shown;
  onShow(shown: Shown): void;
  onClose(): void;
}

/** What the charts show of the marks: by where they were made, by kind, by state. The Sheet lists all of them. */
export function ShownChoice({ anchor, shown, onShow, onClose }: Props) {
  const box = (label: string, checked: boolean, change: Partial<Shown>) => (
    <FormControlLabel
      key={label}
      control={<Checkbox size="small" checked={checked} onChange={() => onShow({ ...shown, ...change })} />}
      label={label}
      sx={{ mr: 0 }}
    />
  );
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
      transformOrigin={{ vertical: "top", horizontal: "right" }}
      transitionDuration={0}
      slotProps={{ paper: { sx: { p: 2, width: 250 }, "aria-label": "What the charts show", role: "dialog" } }}
    >
      <Typography variant="h3" component="h2">
        On the charts
      </Typography>
      <FormGroup>
        {box("Marks of higher rungs", shown.higher, { higher: !shown.higher })}
        {box("What is broken or used up", shown.dead, { dead: !shown.dead })}
      </FormGroup>
      <FormGroup sx={{ borderTop: 1, borderColor: "divider", mt: 1, pt: 1 }}>
        {KINDS.map(({ kind, step }) => {
          const left = shown.without.includes(kind);
          return box(step, !left, {
            without: left ? shown.without.filter((one) => one !== kind) : [...shown.without, kind],
          });
        })}
      </FormGroup>
    </Popover>
  );
}
