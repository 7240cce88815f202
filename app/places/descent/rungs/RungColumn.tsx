import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import Typography from "@mui/material/Typography";
import { Link, useNavigate, useSubmit } from "react-router";
import type { MouseEvent } from "react";
import { bearingsOf } from "#core/marks/bearing";
import type { Mark } from "#core/marks/kind";
import { isSilent } from "#core/marks/registry";
import { countText, rungText } from "#core/marks/wording";
import type { Hours } from "#core/series/hours";
import type { RungOfSet, RungSet } from "#core/time/rungs";
import type { RungSketch } from "../../../../server/bars/sketches.ts";
import { Sketch } from "../../../parts/Sketch.tsx";
import { Needle } from "./Needle.tsx";
import { viewAddress } from "../charts/view.ts";

interface Props {
  set: RungSet;
  sets: readonly { id: string; name: string }[];
  sketches: readonly RungSketch[];
  rung: string;
  hours: Hours;
  asOf: number | undefined;
  marks: readonly Mark[];
  /** Rungs that stand on charts beside. */
  beside: readonly string[];
  /** Takes a click on a rung where it is not the page's address that changes; false leaves it to the link. */
  onChoose(rung: string): boolean;
}

/** The rungs from high to low, each with a sketch of where it came from and how many marks were made on it. */
export function RungColumn({ set, sets, sketches, rung: current, hours, asOf, marks, beside, onChoose }: Props) {
  // A rung that was asked for and is in no set is shown all the same.
  const rungs: RungOfSet[] = set.rungs.some(({ rung }) => rung === current)
    ? set.rungs
    : [...set.rungs, { rung: current, role: "reading" }];
  const bearings = bearingsOf(marks);
  return (
    <Box
      component="nav"
      aria-label="Rungs"
      sx={{
        ...{ width: { xs: "100%", md: 132 }, flexShrink: 0, borderColor: "divider" },
        ...{ borderRight: { xs: 0, md: 1 }, borderBottom: { xs: 1, md: 0 } },
        ...{ display: { xs: "flex", md: "block" }, overflowX: { xs: "auto", md: "hidden" }, overflowY: "auto" },
      }}
    >
      <Box sx={{ display: { xs: "none", md: "block" } }}>
        <SetChoice set={set} sets={sets} />
      </Box>
      {rungs.map(({ rung, role }) => {
        const count = marks.filter((mark) => mark.rung === rung && !isSilent(mark)).length;
        const bearing = bearings.get(rung);
        const chosen = rung === current;
        return (
          <Box
            key={rung}
            component={Link}
            to={viewAddress(rung, hours, asOf)}
            onClick={(event: MouseEvent) => {
              if (!event.ctrlKey && !event.metaKey && onChoose(rung)) event.preventDefault();
            }}
            aria-current={chosen ? "true" : undefined}
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "auto", md: "1fr auto" },
              alignItems: "center",
              gap: 0.75,
              px: 1.25,
              minHeight: { xs: 44, md: 52 },
              textDecoration: "none",
              color: "text.primary",
              borderBottom: 1,
              borderColor: "divider",
              borderLeft: "3px solid",
              borderLeftColor: chosen ? "text.primary" : beside.includes(rung) ? "divider" : "transparent",
              bgcolor: chosen ? "background.paper" : undefined,
            }}
          >
            <Box>
              <Typography
                variant="body2"
                sx={{
                  display: "flex",
                  alignItems: "center",
                  gap: 0.5,
                  fontWeight: chosen ? 600 : 400,
                  fontStyle: role === "reading" ? "italic" : "normal",
                  lineHeight: 1.2,
                  whiteSpace: "nowrap",
                }}
              >
                {rungText(rung)}
                {bearing && <Needle direction={bearing.props.direction} />}
              </Typography>
              {count > 0 && (
                <Typography variant="caption" color="text.secondary" sx={{ whiteSpace: "nowrap" }}>
                  {countText(count, "mark")}
                </Typography>
              )}
            </Box>
            <Box sx={{ display: { xs: "none", md: "block" } }}>
              <SketchOf line={sketches.find((one) => one.rung === rung)} />
            </Box>
          </Box>
        );
      })}
      <Typography
        variant="caption"
        color="text.secondary"
        component="p"
        sx={{ px: 1.25, py: 1, display: { xs: "none", md: "block" } }}
      >
        Upright: traded on. Slanted: for reading.
      </Typography>
    </Box>
  );
}

function SketchOf({ line }: { line: RungSketch | undefined }) {
  if (!line || line.bars > 0) return <Sketch values={line?.sketch ?? []} width={52} height={28} />;
  return (
    <Typography variant="caption" color="text.secondary" sx={{ whiteSpace: "nowrap" }}>
      no bars
    </Typography>
  );
}

const EDIT = "edit";

/** Which set of rungs is used, and the way to change it. */
function SetChoice({ set, sets }: { set: RungSet; sets: readonly { id: string; name: string }[] }) {
  const submit = useSubmit();
  const navigate = useNavigate();
  const choose = (id: string) =>
    id === EDIT
      ? void navigate("/rungs")
      : void submit({ set: id }, { method: "post", action: "/rungs/chosen", navigate: false });
  return (
    <Select
      variant="standard"
      disableUnderline
      displayEmpty
      value={set.id}
      onChange={(event) => choose(event.target.value)}
      inputProps={{ "aria-label": "Set of rungs" }}
      sx={{ width: "100%", px: 1.25, fontSize: "0.78rem", borderBottom: 1, borderColor: "divider" }}
    >
      {sets.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
      <MenuItem value={EDIT}>Rungs and sets ...</MenuItem>
    </Select>
  );
}
