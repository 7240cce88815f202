import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { clearInside, cutAfter, nodeAt, relabel, removePivot } from "#core/marks/countTree";
import { PATTERN_NAMES, PATTERNS, type Pattern } from "#core/waves/patterns";
import type { Counted, Counts } from "./useCounts.ts";

interface Props {
  mark: Counted;
  at: readonly number[];
  counts: Counts;
}

/** What can be done with the chosen wave: its pattern, its inside, its next turn, a fork before it. */
export function WaveActions({ mark, at, counts }: Props) {
  const node = nodeAt(mark, at);
  const parent = at.length > 0 ? nodeAt(mark, at.slice(0, -1)) : undefined;
  const wave = at[at.length - 1];
  const allowed = parent ? PATTERNS[parent.pattern].children[wave] : PATTERN_NAMES;
  const [wanted, setWanted] = useState<Pattern>();
  if (mark.locked) return null;
  const incomplete = node !== undefined && node.pivots.length <= PATTERNS[node.pattern].labels.length;
  const pattern = node?.pattern ?? (wanted && allowed.includes(wanted) ? wanted : allowed[0]);
  // A pattern that may not stand there is kept and told, not hidden.
  const offered = node && !allowed.includes(node.pattern) ? [...allowed, node.pattern] : allowed;
  const choose = (next: Pattern) => (node ? counts.change(relabel(mark, at, next)) : setWanted(next));
  const runs = node !== undefined && incomplete && (parent === undefined || wave === parent.pivots.length - 1);
  const button = { px: 0.75, py: 0, minWidth: 0, minHeight: 24 };
  return (
    <Box sx={{ mt: 0.75 }}>
      <TextField
        select
        fullWidth
        label={node ? "Pattern" : "Inside as"}
        value={pattern}
        onChange={(event) => choose(event.target.value as Pattern)}
      >
        {offered.map((name) => (
          <MenuItem key={name} value={name}>
            {PATTERNS[name].title}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ display: "flex", flexWrap: "wrap", ml: -0.75, mt: 0.5 }}>
        {parent && (
          <Button variant="text" sx={button} onClick={() => counts.labelInside(mark, at, pattern)}>
            {node ? "Label anew" : "Label inside"}
          </Button>
        )}
        <Button variant="text" sx={button} onClick={() => counts.askMachine({ mark: mark.id, at })}>
          {parent ? "Complete by machine" : "Count by machine"}
        </Button>
        {runs && (
          <Button variant="text" sx={button} title="6" onClick={() => counts.next(mark, at)}>
            Next or inserted pivot
          </Button>
        )}
        {node && !runs && incomplete && (
          <Button variant="text" sx={button} onClick={() => counts.next(mark, at)}>
            Insert a pivot
          </Button>
        )}
        {node && node.pivots.length > (parent ? 1 : 2) && (
          <Button variant="text" sx={button} onClick={() => counts.change(cutAfter(mark, at, node.pivots.length - 2))}>
            Take last pivot away
          </Button>
        )}
        {parent && wave + 1 < parent.pivots.length && parent.pivots.length > 2 && (
          <Button
            variant="text"
            sx={button}
            title="Later labels move back by one"
            onClick={() => counts.change(removePivot(mark, at.slice(0, -1), wave + 1))}
          >
            Take its end away
          </Button>
        )}
        {parent && node && (
          <Button variant="text" sx={button} onClick={() => counts.change(clearInside(mark, at))}>
            Clear inside
          </Button>
        )}
        {parent && wave > 0 && (
          <Button
            variant="text"
            sx={button}
            title="An alternate that is the same up to here"
            onClick={() => counts.fork(mark, at.slice(0, -1), wave)}
          >
            Fork before it
          </Button>
        )}
      </Box>
    </Box>
  );
}
