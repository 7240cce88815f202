import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { SinceLast as Since } from "../../../../server/publishing/sinceLast.ts";
import { momentText } from "../../../parts/times.ts";

/** What of a market ended and changed since the edition that last had it: readers of that one must be told. */
export function SinceLast({ since: { since, ended, levels, calls } }: { since: Since }) {
  const changed = [...calls, ...levels];
  return (
    <Box component="section" aria-label="Since it was last written of" sx={{ mb: 1 }}>
      <Typography variant="body2">
        Since <MuiLink href={`/outlooks/${since}`}>edition {since}</MuiLink>
        {ended.length + changed.length === 0 ? ", nothing of it has changed." : ":"}
      </Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
        {ended.map(({ what, how, at }, i) => (
          <Typography key={`${at} ${i}`} component="li" variant="body2">
            <del>{what}</del> {how} {momentText(at, "utc")} UTC.
          </Typography>
        ))}
        {changed.map((text, i) => (
          <Typography key={`${i} ${text}`} component="li" variant="body2">
            {text}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}
