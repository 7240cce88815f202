import Typography from "@mui/material/Typography";
import { countText, rungText } from "#core/marks/wording";
import { dateText, momentText } from "../../parts/times.ts";

interface Line {
  id: string;
  cause: "import" | "undo";
  base: string;
  fromTime: number;
  toTime: number;
  bars: number;
  createdAt: number;
}

/** Changes of bars that had been closed: what an outcome's note refers to. */
export function RestatementList({ restatements }: { restatements: readonly Line[] }) {
  if (restatements.length === 0) return null;
  return (
    <>
      <Typography variant="h2" sx={{ mt: 3 }}>
        Restated
      </Typography>
      {restatements.map(({ id, cause, base, fromTime, toTime, bars, createdAt }) => (
        <Typography key={id} variant="body2" sx={{ mt: 1, pt: 1, borderTop: 1, borderColor: "divider" }}>
          {`${countText(bars, "bar")} of the ${rungText(base).toLowerCase()}, `}
          {`${dateText(fromTime)} to ${dateText(toTime)}, `}
          {cause === "import" ? "by a file" : "by undoing an import"}
          <br />
          {momentText(createdAt, "utc")} UTC
        </Typography>
      ))}
    </>
  );
}
