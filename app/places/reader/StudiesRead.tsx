import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import type { StudyRead } from "./readOutlook.server.ts";

/** What the studies under the chart read at its last bar: the picture is never the only carrier. */
export function StudiesRead({ studies }: { studies: readonly StudyRead[] }) {
  return (
    <Box>
      <Typography variant="h2" sx={{ mt: 2.5 }}>
        What the studies read
      </Typography>
      <Table size="small" aria-label="What the studies read">
        <TableBody>
          {studies.map(({ name, says }) => (
            <TableRow key={name}>
              <TableCell
                component="th"
                scope="row"
                sx={{ fontWeight: 600, verticalAlign: "top", pl: 0, whiteSpace: "nowrap" }}
              >
                {name}
              </TableCell>
              <TableCell sx={{ pr: 0 }}>{says}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
