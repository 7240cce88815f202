import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { useFetcher } from "react-router";
import type { Reading } from "../../../server/database/models.ts";
import { momentText } from "../../parts/times.ts";

interface Props {
  reading: Reading | null;
  /** Whether the desk wants a colleague to read it. */
  wanted: boolean;
  version: number;
  /** Whether it is the draft of whoever looks. */
  own: boolean;
  fetcher: ReturnType<typeof useFetcher>;
  disabled: boolean;
}

const SAYS = { asked: "asks for a reading", approved: "has approved it", back: "asks back" } as const;

/** What a colleague has said of a draft, and what can be said of it now. */
export function ReadByColleague({ reading, wanted, version, own, fetcher, disabled }: Props) {
  const changed = reading && reading.version !== version ? "; changed since" : "";
  return (
    <Box component="section" aria-label="Reading" sx={{ mt: 2 }}>
      <Typography variant="h3">A colleague&apos;s reading</Typography>
      <Typography variant="body2" role="status">
        {reading
          ? `${reading.by.name} ${SAYS[reading.state]} (${momentText(reading.at, "utc")} UTC)${changed}.`
          : wanted
            ? "The desk wants one before it goes out."
            : "Not asked for."}
      </Typography>
      {reading?.state === "back" && <Typography sx={{ my: 0.5, fontStyle: "italic" }}>{reading.words}</Typography>}
      <fetcher.Form method="post">
        <input type="hidden" name="version" value={version} />
        {own ? (
          <Button type="submit" name="step" value="asked" variant="outlined" size="small" disabled={disabled}>
            Ask for it
          </Button>
        ) : (
          <>
            <TextField name="words" label="What to ask back" multiline minRows={2} fullWidth sx={{ my: 1 }} />
            <Button type="submit" name="step" value="approved" variant="outlined" size="small" disabled={disabled}>
              Approve
            </Button>{" "}
            <Button type="submit" name="step" value="back" variant="text" size="small" disabled={disabled}>
              Ask back
            </Button>
          </>
        )}
      </fetcher.Form>
    </Box>
  );
}
