import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Form, Link } from "react-router";
import type { ImportReport } from "../../../server/intake/import.ts";
import { countText } from "#core/marks/wording";
import { Page } from "../../parts/Page.tsx";
import { PartsBeside } from "./PartsBeside.tsx";
import { dateText } from "../../parts/times.ts";
import { RemarkList } from "./RemarkList.tsx";
import { PageTitle } from "../../parts/TopBar.tsx";

/** Dates that are named: the newest. */
const SOME = 6;

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
  const { market, added, same, differing, kept, leftOutCount, gaps, already, holidays = [] } = report;
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
      {holidays.length > 0 && (
        <Form method="post" action={`/library/${market}`}>
          <input type="hidden" name="step" value="holidays" />
          <input type="hidden" name="holidays" value={JSON.stringify({ dates: holidays })} />
          <Typography sx={{ maxWidth: "66ch" }}>
            On {countText(holidays.length, "trading date")} neither this market nor another of its zone and kind has a
            bar:{" "}
            {holidays
              .slice(-SOME)
              .map((date) => dateText(Date.parse(date)))
              .join(", ")}
            {holidays.length > SOME && ` and ${holidays.length - SOME} before`}.
          </Typography>
          <Button type="submit" sx={{ mt: 1, mb: 2 }}>
            Take them for holidays
          </Button>
        </Form>
      )}
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
