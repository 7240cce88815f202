import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Remarks } from "#core/csv/remarks";
import { momentText } from "../../parts/times.ts";

interface Props {
  title: string;
  remarks: Remarks;
  say(size: number): string;
}

/** What may be right in a file and is worth a look; nothing where there is nothing. */
export function RemarkList({ title, remarks: { count, listed }, say }: Props) {
  if (count === 0) return null;
  return (
    <Box sx={{ mb: 2 }}>
      <Typography>
        {title}
        {count > listed.length && "; the largest"}:
      </Typography>
      <Box component="ul" sx={{ my: 0.5, pl: 3 }}>
        {listed.map(({ time, size }) => (
          <Typography component="li" variant="body2" key={time}>
            {momentText(time, "utc")} UTC, {say(size)}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}
