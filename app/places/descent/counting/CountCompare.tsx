import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { killOf, readingOf } from "#core/marks/count";
import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { PATTERNS } from "#core/waves/patterns";
import { inProgress } from "#core/waves/wave";
import { summaryOf } from "./CountFacts.tsx";
import type { Counted } from "./useCounts.ts";

/** Counts side by side: what each says, what would end it, how many guidelines it keeps. */
export function CountCompare({ counts, market }: { counts: readonly Counted[]; market: MarketFacts }) {
  const columns = counts.map((mark) => {
    const { wave } = readingOf(mark);
    const open = inProgress(wave);
    const kill = killOf(mark);
    const target = readingOf(mark).targets.at(0);
    const { name, guidelines, broken } = summaryOf(mark);
    return {
      id: mark.id,
      lines: [
        ["", name],
        ["stands as", `${mark.props.role}${mark.props.weight > 0 ? `, ${mark.props.weight} %` : ""}`],
        ["in progress", open === undefined ? "complete" : `wave ${PATTERNS[wave.pattern].labels[open]}`],
        ["dies", kill ? `${kill.killSide} ${priceText(kill.killPrice, market)}` : "\u2013"],
        ["first target", target ? priceText(target.price, market) : "\u2013"],
        ["rules broken", String(broken)],
        ["guidelines kept", guidelines.of === 0 ? "\u2013" : `${guidelines.kept} of ${guidelines.of}`],
      ],
    };
  });
  const [first] = columns;
  if (!first) return null;
  return (
    <Table
      size="small"
      aria-label="Counts compared"
      sx={{ mt: 1, "& td, & th": { px: 0.5, py: 0.25, fontSize: "0.8rem", verticalAlign: "top" } }}
    >
      <TableHead>
        <TableRow>
          {[["", ""] as const, ...columns.map(({ id, lines }) => [id, lines[0][1]] as const)].map(([id, name]) => (
            <TableCell key={id} component={name ? "th" : "td"}>
              {name}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {first.lines.slice(1).map(([name], i) => (
          <TableRow key={name}>
            <TableCell component="th">{name}</TableCell>
            {columns.map(({ id, lines }) => (
              <TableCell key={id}>{lines[i + 1][1]}</TableCell>
            ))}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
