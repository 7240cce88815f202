import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { differences } from "#core/marks/difference";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { priceText, rungText } from "#core/marks/wording";
import { dateText } from "../../../parts/times.ts";
import { inHand } from "./kinds.ts";
import type { MarkStore, Snapshot } from "./markStore.ts";

interface Props {
  store: MarkStore;
  snapshot: Snapshot;
  market: MarketFacts;
}

/** Where two analysts changed the same mark: what each of them says, and which is to stand. */
export function Differences({ store, snapshot: { save, marks, news }, market }: Props) {
  if (save.state === "conflict") {
    const pairs = save.ids.map((id) => ({
      ours: marks.find((mark) => mark.id === id),
      theirs: save.theirs.find((mark) => mark.id === id),
    }));
    return (
      <Panel
        title="Another analyst changed the same mark"
        text="Theirs is stored. Yours stands on this page until you choose."
        market={market}
        columns={["Yours", "Theirs"]}
        pairs={pairs}
        choices={[
          ["Take theirs", () => store.settle("theirs")],
          ["Keep mine", () => store.settle("ours")],
        ]}
      />
    );
  }
  if (news.length === 0) return null;
  return (
    <Panel
      title="Another analyst has changed your mark"
      text="Theirs is stored and shown."
      market={market}
      columns={["Yours was", "Now"]}
      pairs={news.map(({ before, after }) => ({ ours: before, theirs: after }))}
      choices={[
        ["Leave it so", () => store.readNews()],
        ["Put mine back", () => putBack(store, news)],
      ]}
    />
  );
}

function putBack(store: MarkStore, news: Snapshot["news"]): void {
  store.set(...news.flatMap(({ before }) => (before ? [before] : [])));
  store.remove(...news.flatMap(({ id, before }) => (before ? [] : [id])));
}

const PROPS: Record<string, string> = {
  label: "Name",
  text: "Words",
  side: "Side",
  own: "Edges by hand",
  degree: "Degree",
  scale: "Lengths",
  ratios: "Ratios",
  direction: "Direction",
  reasons: "Reasons",
};

interface PanelProps {
  title: string;
  text: string;
  market: MarketFacts;
  columns: [string, string];
  pairs: { ours: Mark | undefined; theirs: Mark | undefined }[];
  choices: [string, () => void][];
}

function Panel({ title, text, market, columns, pairs, choices }: PanelProps) {
  return (
    <Box role="alert" sx={{ border: "1.5px solid", borderColor: "text.primary", p: 1.25, mb: 1.5 }}>
      <Typography variant="h3">{title}</Typography>
      <Typography variant="body2" color="text.secondary">
        {text}
      </Typography>
      {pairs.map(({ ours, theirs }, i) => {
        const mark = ours ?? theirs;
        return mark ? <Pair key={i} mark={mark} ours={ours} theirs={theirs} market={market} columns={columns} /> : null;
      })}
      <Box sx={{ display: "flex", justifyContent: "flex-end", gap: 1, mt: 1 }}>
        {choices.map(([name, run]) => (
          <Button key={name} onClick={run}>
            {name}
          </Button>
        ))}
      </Box>
    </Box>
  );
}

function Pair({
  mark,
  ours,
  theirs,
  market,
  columns,
}: {
  mark: Mark;
  ours: Mark | undefined;
  theirs: Mark | undefined;
  market: MarketFacts;
  columns: [string, string];
}) {
  const found = differences(ours, theirs, {
    price: (value) => priceText(value, market),
    time: dateText,
    anchor: (i) => inHand(mark.kind)?.anchorName(i) ?? "Price",
    prop: (name) => PROPS[name] ?? name,
  });
  const name = `${kindOf(mark).title}, ${rungText(mark.rung).toLowerCase()}`;
  return (
    <Table size="small" aria-label={name} sx={{ mt: 1, "& td, & th": { px: 0.5 } }}>
      <TableHead>
        <TableRow>
          <TableCell>{name}</TableCell>
          {columns.map((column) => (
            <TableCell key={column} align="right">
              {column}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {found.map(({ what, ours: a, theirs: b }) => (
          <TableRow key={what}>
            <TableCell>{what}</TableCell>
            <TableCell align="right">{a}</TableCell>
            <TableCell align="right">{b}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
