import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { SinceLast as Since } from "../../../../server/publishing/sinceLast.ts";
import { momentText } from "../../../parts/times.ts";

interface Props {
  since: Since;
  /** Whether something is called on the market. */
  isCalled: boolean;
  onTakeOut(): void;
}

/**
 * What of a market ended and changed since the edition that last had it: readers of that one must be told. One with
 * nothing new and nothing called is offered to go.
 */
export function SinceLast({ since: { since, ended, levels, calls }, isCalled, onTakeOut }: Props) {
  const changed = [...calls, ...levels];
  const isQuiet = ended.length + changed.length === 0;
  return (
    <Box component="section" aria-label="Since it was last written of" sx={{ mb: 1 }}>
      <Typography variant="body2">
        Since <MuiLink href={`/outlooks/${since}`}>edition {since}</MuiLink>
        {!isQuiet
          ? ":"
          : isCalled
            ? ", nothing of it has changed."
            : ", nothing of it has changed, and nothing is called."}
        {isQuiet && !isCalled && (
          <Button variant="text" onClick={onTakeOut}>
            Let it go from this edition
          </Button>
        )}
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
