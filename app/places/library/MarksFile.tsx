import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { useSubmit } from "react-router";
import { countText } from "#core/marks/wording";
import type { MarksReport } from "../../../server/desk/markFile.ts";
import { failureText, type FailureBody } from "../../parts/post.ts";

interface Props {
  market: string;
  says: string;
  report: MarksReport | undefined;
  failure: FailureBody | undefined;
}

/** The market's marks to a file and back. */
export function MarksFile({ market, says, report, failure }: Props) {
  const submit = useSubmit();
  const send = (file: File | undefined) => {
    if (!file) return;
    const form = new FormData();
    form.set("marks", file);
    void submit(form, { method: "post", encType: "multipart/form-data", preventScrollReset: true });
  };
  return (
    <Box component="section" aria-label="Marks">
      <Typography variant="h2" sx={{ mt: 4, mb: 0.5 }}>
        Marks
      </Typography>
      <Box sx={{ display: "flex", gap: 2, alignItems: "baseline" }}>
        <Typography>{says} stand on this market.</Typography>
        <MuiLink href={`/library/${market}/export?what=marks&format=csv`} aria-label="Marks as CSV">
          CSV
        </MuiLink>
        <MuiLink href={`/library/${market}/export?what=marks&format=json`} aria-label="Marks as JSON">
          JSON
        </MuiLink>
        <Button component="label">
          Import marks
          <input
            type="file"
            accept=".json,.csv,application/json,text/csv"
            hidden
            aria-label="File of marks"
            onChange={(event) => send(event.target.files?.[0])}
          />
        </Button>
      </Box>
      {report && (
        <Typography role="status" sx={{ mt: 1 }}>
          {countText(report.added, "mark")} added, {report.same} were there already
          {report.differing > 0 && `, ${report.differing} stand here otherwise and were left as they are`}.
        </Typography>
      )}
      {failure && (
        <Typography role="alert" sx={{ mt: 1, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
    </Box>
  );
}
