import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { COLUMN_NAMES, columnsText, missingColumns, type ColumnName, type Columns } from "#core/csv/heads";

const TITLES: Record<ColumnName, string> = {
  time: "date or time",
  clock: "clock",
  open: "open",
  high: "high",
  low: "low",
  close: "close",
  volume: "volume",
  adjusted: "adjusted close",
  symbol: "market",
};

interface Props {
  inspection: { sample: string[][]; columns: Columns };
  reread(change: Record<string, string>): void;
}

/** The first rows as they stand in the file; above each column what it is, to be said otherwise. */
export function ColumnsTable({ inspection: { sample, columns }, reread }: Props) {
  const [said, setSaid] = useState(columns);
  const width = Math.max(...sample.map((row) => row.length));
  const nameOf = (column: number) => COLUMN_NAMES.find((name) => said[name] === column) ?? "";
  const say = (column: number, name: string) => {
    const next = { ...said };
    for (const one of COLUMN_NAMES) if (next[one] === column) next[one] = -1;
    const found = COLUMN_NAMES.find((one) => one === name);
    if (found) next[found] = column;
    setSaid(next);
  };
  const isChanged = columnsText(said) !== columnsText(columns);
  const missing = missingColumns(said);
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4 }}>
        As it stands in the file
      </Typography>
      <Table aria-label="First rows of the file">
        <TableHead>
          <TableRow>
            {Array.from({ length: width }, (_, column) => (
              <TableCell key={column}>
                <TextField
                  select
                  variant="standard"
                  value={nameOf(column)}
                  onChange={(event) => say(column, event.target.value)}
                  slotProps={{
                    select: { displayEmpty: true },
                    htmlInput: { "aria-label": `What column ${column + 1} is` },
                  }}
                >
                  <MenuItem value="">not read</MenuItem>
                  {COLUMN_NAMES.map((name) => (
                    <MenuItem key={name} value={name}>
                      {TITLES[name]}
                    </MenuItem>
                  ))}
                </TextField>
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {sample.map((row, i) => (
            <TableRow key={i}>
              {row.map((cell, j) => (
                <TableCell key={j}>{cell}</TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {isChanged && (
        <Button
          disabled={missing !== ""}
          onClick={() => reread({ columns: columnsText(said) })}
          sx={{ mt: 2 }}
          variant="contained"
        >
          Read it so
        </Button>
      )}
      {missing !== "" && (
        <Typography variant="body2" sx={{ mt: 1 }}>
          Say above which column holds: {missing}.
        </Typography>
      )}
    </>
  );
}
