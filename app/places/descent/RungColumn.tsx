import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Mark } from "#core/marks/kind";
import { countText, rungText } from "#core/marks/wording";
import { Sketch } from "../../parts/Sketch.tsx";

export interface RungLine {
  rung: string;
  bars: number;
  sketch: number[];
}

/** The rungs from high to low, each with a sketch of where it came from and how many marks were made on it. */
export function RungColumn({ rungs, rung: current, marks }: { rungs: readonly RungLine[]; rung: string; marks: readonly Mark[] }) {
  return (
    <Box component="nav" aria-label="Rungs" sx={{ width: 132, flexShrink: 0, borderRight: 1, borderColor: "divider", overflowY: "auto" }}>
      {rungs.map(({ rung, bars, sketch }) => {
        const count = marks.filter((mark) => mark.rung === rung).length;
        const chosen = rung === current;
        return (
          <Box
            key={rung}
            component={Link}
            to={`?rung=${rung}`}
            aria-current={chosen ? "true" : undefined}
            sx={{
              display: "grid",
              gridTemplateColumns: "1fr auto",
              alignItems: "center",
              gap: 0.75,
              px: 1.25,
              minHeight: 55,
              textDecoration: "none",
              color: "text.primary",
              borderBottom: 1,
              borderColor: "divider",
              borderLeft: "3px solid",
              borderLeftColor: chosen ? "text.primary" : "transparent",
              bgcolor: chosen ? "background.paper" : undefined,
            }}
          >
            <Box>
              <Typography variant="body2" sx={{ fontWeight: chosen ? 600 : 400, lineHeight: 1.2, whiteSpace: "nowrap" }}>
                {rungText(rung)}
              </Typography>
              {(bars === 0 || count > 0) && (
                <Typography variant="caption" color="text.secondary" sx={{ whiteSpace: "nowrap" }}>
                  {bars === 0 ? "no bars" : countText(count, "mark")}
                </Typography>
              )}
            </Box>
            <Sketch values={sketch} width={52} height={28} />
          </Box>
        );
      })}
    </Box>
  );
}
