import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";

/** The head of a plain table: the name of each column; an empty one heads what can be done with a row. */
export function HeadRow({ columns }: { columns: readonly string[] }) {
  return (
    <TableHead>
      <TableRow>
        {columns.map((column) => (
          <TableCell key={column}>{column}</TableCell>
        ))}
      </TableRow>
    </TableHead>
  );
}
