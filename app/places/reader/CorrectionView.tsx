import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { Correction } from "../../../server/publishing/corrections.ts";
import { momentText } from "../../parts/times.ts";

/** What was said of an edition later, beside its words: what became of them, or that it was taken back. */
export function CorrectionView({ correction }: { correction: Correction }) {
  const { number, how, small, publishedAt, difference } = correction;
  const what = how === "withdrawal" ? "Withdrawn" : small ? "A slip of the pen, put right" : "Corrected";
  return (
    <Box
      component="section"
      aria-label={`${what} by edition ${number}`}
      sx={{ borderLeft: 3, borderColor: "text.primary", pl: 1.5, mb: 2, maxWidth: 760 }}
    >
      <Typography sx={{ fontWeight: small ? 400 : 600 }}>
        {what} on {momentText(publishedAt, "utc")} UTC by{" "}
        <MuiLink href={`/outlooks/${number}`}>edition {number}</MuiLink>. What was published stays below.
      </Typography>
      <Typography variant="body2" component="p" sx={{ whiteSpace: "pre-line", overflowWrap: "anywhere" }}>
        {difference.map(({ text, is }, i) =>
          is === "added" ? <ins key={i}>{text}</ins> : is === "removed" ? <del key={i}>{text}</del> : text,
        )}
      </Typography>
    </Box>
  );
}
