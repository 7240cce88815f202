import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Link, useSubmit } from "react-router";
import { ACTS, auditLines, type Act, type AuditLine } from "../../../server/audit/audit.ts";
import { answer } from "../../access.server.ts";
import { HeadRow } from "../../parts/HeadRow.tsx";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/audit.ts";

export const meta: Route.MetaFunction = () => [{ title: "What everybody did - Even Compass" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const query = new URL(request.url).searchParams;
    const asked = query.get("what") ?? "";
    const what = Object.hasOwn(ACTS, asked) ? (asked as Act) : undefined;
    const before = /^\d{1,9}$/.test(query.get("before") ?? "") ? Number(query.get("before")) : undefined;
    return { what: what ?? "", kinds: Object.entries(ACTS), ...(await auditLines({ what, before })) };
  });
}

const ALL = "all";

/** What was done at the desk: who, when, and what stood there before. */
export default function Audit({ loaderData: { what, kinds, lines, more } }: Route.ComponentProps) {
  const submit = useSubmit();
  const last = lines.at(-1)?.number;
  return (
    <Page>
      <PageTitle
        aside={
          <TextField
            select
            label="Show"
            value={what || ALL}
            onChange={({ target }) => void submit(target.value === ALL ? {} : { what: target.value })}
            sx={{ width: 260 }}
          >
            <MenuItem value={ALL}>everything</MenuItem>
            {kinds.map(([kind, words]) => (
              <MenuItem key={kind} value={kind}>
                {words}
              </MenuItem>
            ))}
          </TextField>
        }
      >
        What everybody did
      </PageTitle>
      {lines.length === 0 && <Typography color="text.secondary">Nothing of this kind was done yet.</Typography>}
      {lines.length > 0 && (
        <Table aria-label="What everybody did">
          <HeadRow columns={["When, UTC", "Who", "What", "More"]} />
          <TableBody>
            {lines.map((line) => (
              <ActRow key={line.number} line={line} />
            ))}
          </TableBody>
        </Table>
      )}
      {more && (
        <Box sx={{ mt: 2 }}>
          <MuiLink
            component={Link}
            to={`?${new URLSearchParams({ ...(what ? { what } : {}), before: String(last) }).toString()}`}
          >
            Earlier
          </MuiLink>
        </Box>
      )}
    </Page>
  );
}

function ActRow({ line: { at, who, what, subject, detail } }: { line: AuditLine }) {
  return (
    <TableRow sx={{ "& td, & th": { verticalAlign: "top" } }}>
      <TableCell sx={{ whiteSpace: "nowrap" }}>{momentText(at, "utc")}</TableCell>
      <TableCell component="th" scope="row" sx={{ whiteSpace: "nowrap" }}>
        {who}
      </TableCell>
      <TableCell sx={{ overflowWrap: "anywhere" }}>
        {what}: {subject}
      </TableCell>
      <TableCell sx={{ maxWidth: 380 }}>
        {detail && (
          <Box component="details">
            <Box component="summary" sx={{ cursor: "pointer", whiteSpace: "nowrap" }}>
              {Object.keys(detail).join(", ")}
            </Box>
            <Box
              component="pre"
              sx={{
                m: 0,
                mt: 0.5,
                fontFamily: "inherit",
                fontSize: "0.85em",
                whiteSpace: "pre-wrap",
                overflowWrap: "anywhere",
              }}
            >
              {JSON.stringify(detail, null, 1)}
            </Box>
          </Box>
        )}
      </TableCell>
    </TableRow>
  );
}
