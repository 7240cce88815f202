import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { ImportReport } from "../../../server/intake/import.ts";
import { countText } from "#core/marks/wording";
import { Page } from "../../parts/Page.tsx";
import { PartsBeside } from "./PartsBeside.tsx";
import { RemarkList } from "./RemarkList.tsx";
import { PageTitle } from "../../parts/TopBar.tsx";

/** What an import did, in sentences. */
export function ImportDone({
  report,
  beside = [],
  columns,
}: {
  report: ImportReport;
  /** Other markets of the same file that still wait. */
  beside?: readonly { id: string; name: string }[];
  /** What was said of their columns. */
  columns?: string | undefined;
}) {
  const { market, added, same, differing, kept, leftOutCount, gaps, already } = report;
  const sentences = already
    ? ["This very file was imported before.", "Nothing was changed."]
    : [
        `${countText(added, "bar")} added.`,
        same > 0 ? `${same} were already there, alike.` : "",
        differing > 0
          ? `${differing} differed; ${kept === "file" ? "the file's stand now" : "the stored ones stand"}.`
          : "",
        leftOutCount > 0 ? `${countText(leftOutCount, "row")} left out, as you agreed.` : "",
      ];
  return (
    <Page>
      <PageTitle>{already ? "Nothing to do" : "Imported"}</PageTitle>
      <Typography role="status" sx={{ mb: 2 }}>
        {sentences.filter(Boolean).join(" ")}
      </Typography>
      <PartsBeside beside={beside} columns={columns} />
      <RemarkList
        title={`In ${countText(gaps.count, "place")} the market's sessions had room for bars that the file has not`}
        remarks={gaps}
        say={(missing) => countText(missing, "bar")}
      />
      <Button component={Link} to={`/descent/${market}`} variant="contained">
        Open the market
      </Button>{" "}
      <Button component={Link} to="/library" variant="text">
        Back to the library
      </Button>
    </Page>
  );
}
