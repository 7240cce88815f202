import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useFetcher } from "react-router";
import { countText, rungText } from "#core/marks/wording";
import type { ImportReport } from "../../../server/intake/import.ts";
import type { Undone } from "../../../server/intake/undo.ts";
import { failureText, type FailureBody } from "../../parts/post.ts";
import { momentText } from "../../parts/times.ts";

export interface ImportLine {
  id: string;
  market: string;
  base: string;
  fileName: string;
  createdAt: number;
  /** What it did, in sentences. */
  says: string;
  undoneAt: number | null;
  canUndo: boolean;
}

interface StoredImport {
  id: string;
  base: string;
  fileName: string;
  createdAt: number;
  undoneAt: number | null;
  firstTime: number | null;
  report: Record<string, unknown>;
}

export function importLine(
  { id, base, fileName, createdAt, undoneAt, firstTime, report }: StoredImport,
  market: string,
): ImportLine {
  const { added, same, differing, kept, leftOutCount, pieces } = report as unknown as ImportReport & {
    /** Of what a program sent: in how many pieces. */
    pieces?: number;
  };
  const says = [
    `${countText(added, "bar")} added${pieces !== undefined && pieces > 1 ? ` in ${pieces} pieces` : ""}`,
    ...(same > 0 ? [`${same} were there already`] : []),
    ...(differing > 0
      ? [`${differing} differed, ${kept === "file" ? "the file's stand" : "the stored ones stand"}`]
      : []),
    ...(leftOutCount > 0 ? [`${countText(leftOutCount, "row")} left out`] : []),
  ].join(", ");
  return { id, market, base, fileName, createdAt, says, undoneAt, canUndo: undoneAt === null && firstTime !== null };
}

/** The newest imports, each with what it did and the way to take it back. */
export function ImportList({ imports }: { imports: readonly ImportLine[] }) {
  return (
    <>
      <Typography variant="h2">Imports</Typography>
      {imports.length === 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          No file yet. Choose one and what was recognised in it is shown before anything is stored.
        </Typography>
      )}
      {imports.map((one) => (
        <ImportEntry key={one.id} {...one} />
      ))}
    </>
  );
}

function ImportEntry({ id, market, base, fileName, createdAt, says, undoneAt, canUndo }: ImportLine) {
  const fetcher = useFetcher<{ undone?: Undone; failure?: FailureBody }>();
  const asked = useFetcher<{ depends: string[] }>();
  const [isOpen, setOpen] = useState(false);
  const { failure } = fetcher.data ?? {};
  const address = `/library/imports/${id}/undo`;
  return (
    <Box sx={{ mt: 1, pt: 1, borderTop: 1, borderColor: "divider" }}>
      <Typography variant="body2" sx={{ overflowWrap: "anywhere" }}>
        <strong>{fileName}</strong>
        <br />
        {market}, {rungText(base).toLowerCase()}: {says}
        <br />
        {momentText(createdAt, "utc")} UTC
      </Typography>
      {undoneAt !== null && (
        <Typography variant="body2" role="status">
          Undone {momentText(undoneAt, "utc")} UTC
        </Typography>
      )}
      {canUndo && !isOpen && (
        <Button
          variant="text"
          onClick={() => {
            setOpen(true);
            void asked.load(address);
          }}
          sx={{ ml: -0.6 }}
          aria-label={`Undo the import of ${fileName}`}
        >
          Undo
        </Button>
      )}
      {canUndo && isOpen && asked.data && (
        <fetcher.Form method="post" action={address}>
          <Typography variant="body2" role="status">
            {asked.data.depends.length === 0 ? "Nothing rests on its bars." : asked.data.depends.join(" ")}
          </Typography>
          <Button type="submit" variant="text" disabled={fetcher.state !== "idle"} sx={{ ml: -0.6 }}>
            {fetcher.state === "idle" ? "Undo the import" : "Undoing ..."}
          </Button>
          <Button variant="text" onClick={() => setOpen(false)}>
            Leave it
          </Button>
        </fetcher.Form>
      )}
      {failure && (
        <Typography variant="body2" role="alert" sx={{ fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
    </Box>
  );
}
