import Box from "@mui/material/Box";
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
import { Form, Link, useNavigation } from "react-router";
import { MARKET_KINDS } from "#contracts/market";
import type { NumberFormat } from "#core/csv/numbers";
import { sessionsText } from "#core/csv/sessions";
import { countText, plainNumber, rungText } from "#core/marks/wording";
import type { Inspection } from "../../../server/intake/import.ts";
import type { FileOptions } from "../../../server/tasks/readBars.ts";
import { failureText, type FailureBody } from "../../parts/post.ts";
import { momentText } from "../../parts/times.ts";
import { RemarkList } from "./RemarkList.tsx";

interface Props {
  upload: string;
  inspection: Inspection;
  markets: readonly { id: string; name: string }[];
  options: FileOptions;
  failure: FailureBody | undefined;
  /** Reads the file anew with something said otherwise. */
  reread(change: Record<string, string>): void;
}

/** What was recognised in a file, and what is to be done with it: nothing is stored before it is confirmed. */
export function ImportConfirm({ upload, inspection, markets, options, failure, reread }: Props) {
  const { format, faults, faultCount, about } = inspection;
  // A file named like a market is most likely more of it.
  const [market, setMarket] = useState(markets.find(({ name }) => name === inspection.name)?.id ?? "");
  const busy = useNavigation().state !== "idle";
  const field = (name: string) => ({ name, error: !!failure?.fields?.[name], helperText: failure?.fields?.[name] });
  const facts: [string, string][] = [
    ["Rows", String(inspection.rows)],
    ["Bars that can be read", String(inspection.bars)],
    ["Separated by", inspection.delimiter === "\t" ? "tab" : inspection.delimiter],
    ["Numbers", numbersText(format.numbers)],
    ["Time", format.time.name],
    ["First", Number.isFinite(inspection.first) ? `${momentText(inspection.first, options.zone)}` : ""],
    ["Last", Number.isFinite(inspection.last) ? `${momentText(inspection.last, options.zone)}` : ""],
    ["Rows said twice", String(inspection.repeated)],
  ];
  return (
    <>
      <Typography sx={{ mb: 2 }}>This was recognised. Nothing is stored until you confirm.</Typography>
      <RemarkList
        title={
          `${countText(inspection.jumps.count, "price")} far from the one before; right after a split or a ` +
          `long closure, wrong after a slipped decimal mark`
        }
        remarks={inspection.jumps}
        say={(size) => `${size.toFixed(0)} ATR`}
      />
      <Box sx={{ display: "grid", gridTemplateColumns: { md: "300px 1fr" }, gap: 4 }}>
        <Table aria-label="What was recognised">
          <TableBody>
            {facts.map(([name, value]) => (
              <TableRow key={name}>
                <TableCell component="th" scope="row">
                  {name}
                </TableCell>
                <TableCell align="right">{value}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        <Form method="post">
          <input type="hidden" name="upload" value={upload} />
          {Object.entries(saidOptions(options)).map(([name, value]) =>
            name === "zone" ? null : <input key={name} type="hidden" name={name} value={value} />,
          )}
          <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 2.5 }}>
            <TextField
              select
              label="Into"
              value={market}
              onChange={(event) => setMarket(event.target.value)}
              name="market"
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            >
              <MenuItem value="">a new market</MenuItem>
              {markets.map(({ id, name }) => (
                <MenuItem key={id} value={id}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              label="Name"
              {...field("name")}
              defaultValue={about?.name ?? inspection.name.replace(/\.\w+$/, "")}
              slotProps={{ htmlInput: { readOnly: market !== "" } }}
            />
            <TextField
              select
              label="Kind"
              {...field("kind")}
              defaultValue={MARKET_KINDS.find((kind) => kind === about?.kind) ?? "other"}
            >
              {MARKET_KINDS.map((kind) => (
                <MenuItem key={kind} value={kind}>
                  {kind}
                </MenuItem>
              ))}
            </TextField>
            <TextField select label="Each row is" {...field("base")} defaultValue={inspection.timeframe}>
              {[...new Set([inspection.timeframe, "PT1M", "PT5M", "PT15M", "PT1H", "P1D", "P1W", "P1M"])].map((one) => (
                <MenuItem key={one} value={one}>
                  {rungText(one)}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              label="Times are in the zone"
              {...field("zone")}
              defaultValue={about?.calendar.zone ?? options.zone}
              onBlur={(event) => event.target.value !== options.zone && reread({ zone: event.target.value })}
            />
            {format.time.ambiguous && (
              <TextField
                select
                label="03/04 is"
                value={options.order ?? format.time.order}
                onChange={(event) => reread({ order: event.target.value })}
              >
                <MenuItem value="dmy">3 April</MenuItem>
                <MenuItem value="mdy">4 March</MenuItem>
              </TextField>
            )}
            {format.numbers.ambiguous && (
              <TextField
                select
                label={`"38${markOf(format.numbers)}250" is`}
                value={options.numbers ?? (format.numbers.thousands === "" ? "decimals" : "thousands")}
                onChange={(event) => reread({ numbers: event.target.value })}
                helperText="The file leaves it open: every number could be read both ways."
              >
                <MenuItem value="decimals">38.25, with decimals</MenuItem>
                <MenuItem value="thousands">38250, with its thousands set apart</MenuItem>
              </TextField>
            )}
            {format.columns.adjusted !== undefined && (
              <TextField
                select
                label="Prices are taken"
                value={options.isAdjusted ? "adjusted" : "traded"}
                onChange={(event) => reread({ close: event.target.value === "adjusted" ? "adjusted" : "" })}
                helperText="The file has two closes; the other one is not kept."
              >
                <MenuItem value="traded">as they were traded</MenuItem>
                <MenuItem value="adjusted">as the adjusted close has them</MenuItem>
              </TextField>
            )}
            <TextField
              label="Tick"
              {...field("tick")}
              defaultValue={about ? plainNumber(about.tick) : (10 ** -inspection.decimals).toFixed(inspection.decimals)}
            />
            <TextField
              label="Decimals shown"
              {...field("decimals")}
              defaultValue={about?.decimals ?? inspection.decimals}
            />
            {market === "" && inspection.sessions && !about && (
              <TextField
                select
                label="It trades"
                {...field("hours")}
                defaultValue="shown"
                sx={{ gridColumn: "1 / -1" }}
                helperText="As its bars show; holidays and half days are added in the Library."
              >
                <MenuItem value="shown">{sessionsText(inspection.sessions)}</MenuItem>
                <MenuItem value="all">at all hours of all days</MenuItem>
              </TextField>
            )}
            <TextField select label="Where file and store differ" {...field("differing")} defaultValue="ask">
              <MenuItem value="ask">stop and ask</MenuItem>
              <MenuItem value="stored">what is stored stands</MenuItem>
              <MenuItem value="file">the file stands</MenuItem>
            </TextField>
            {faultCount > 0 ? (
              <TextField
                select
                label={`${countText(faultCount, "row")} cannot be read`}
                {...field("badRows")}
                defaultValue="refuse"
              >
                <MenuItem value="refuse">store nothing</MenuItem>
                <MenuItem value="leaveOut">leave exactly these out</MenuItem>
              </TextField>
            ) : (
              <input type="hidden" name="badRows" value="refuse" />
            )}
          </Box>
          {failure && (
            <Typography role="alert" sx={{ mt: 2, fontWeight: 600 }}>
              {failureText(failure)}
            </Typography>
          )}
          <Box sx={{ mt: 3, display: "flex", gap: 1.5 }}>
            <Button type="submit" variant="contained" disabled={busy}>
              {busy ? "Storing ..." : "Confirm and import"}
            </Button>
            <Button component={Link} to="/library" variant="text">
              Leave it
            </Button>
          </Box>
        </Form>
      </Box>
      {faultCount > 0 && (
        <Box sx={{ mt: 4 }}>
          <Typography variant="h2">Rows that cannot be read</Typography>
          <FaultTable faults={faults.slice(0, 100)} />
          {faultCount > 100 && <Typography variant="body2">and {faultCount - 100} more.</Typography>}
        </Box>
      )}
    </>
  );
}

/** What was said of a file, as an address or a form carries it. */
export function saidOptions({ zone, order, numbers, isAdjusted, columns }: FileOptions): Record<string, string> {
  return {
    zone,
    order: order ?? "",
    numbers: numbers ?? "",
    close: isAdjusted ? "adjusted" : "",
    columns: columns ?? "",
  };
}

/** The mark in numbers that can be read both ways. */
const markOf = ({ decimal, thousands }: NumberFormat) => (thousands === "," || decimal === "," ? "," : ".");

/** How numbers are written, by one of them. */
function numbersText({ decimal, thousands }: NumberFormat): string {
  return thousands === "" ? `as 1${decimal}25` : `as 1${thousands}234${decimal}25`;
}

function FaultTable({ faults }: { faults: readonly { line: number; reason: string }[] }) {
  return (
    <Table aria-label="Rows that cannot be read">
      <TableHead>
        <TableRow>
          <TableCell align="right" sx={{ width: 70 }}>
            Line
          </TableCell>
          <TableCell>Reason</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {faults.map(({ line, reason }, i) => (
          <TableRow key={i}>
            <TableCell align="right">{line}</TableCell>
            <TableCell>{reason}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
