import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { MarketBlock } from "#core/edition/blocks";
import { textOfWords } from "#core/edition/words";
import { rungText } from "#core/marks/wording";
import type { Argument } from "./WalkFields.tsx";

interface Props {
  block: MarketBlock;
  argument: Argument;
  /** The words begin as the desk says it. */
  onTake(rests: { rung: string; text: string }[]): void;
  /** What has changed was seen, and the words stay as they are. */
  onSeen(rests: { rung: string; text: string }[]): void;
}

/** Offers what the desk says of a market as words, and tells later what of that it says otherwise. */
export function DeskSays({ block, argument, onTake, onSeen }: Props) {
  const { words, rests } = block;
  if (argument.length === 0) return null;
  // A market's words rest on what speaks for a horizon and on the rung of its chart: ten rungs are a walk.
  const now = argument
    .filter(({ rung, main }) => main || rung === block.rung)
    .map(({ rung, text }) => ({ rung, text }));
  if (!words || textOfWords(words).trim() === "")
    return (
      <Button variant="outlined" size="small" onClick={() => onTake(now)} sx={{ mb: 1 }}>
        Begin as the desk says it
      </Button>
    );
  if (!rests) return null;
  const changed = now.filter(({ rung, text }) => rests.find((one) => one.rung === rung)?.text !== text);
  const gone = rests.filter(({ rung }) => !now.some((one) => one.rung === rung));
  if (changed.length + gone.length === 0) return null;
  return (
    <Box role="note" aria-label="What the words rest on" sx={{ mb: 1 }}>
      <Typography variant="body2">What these words rest on has changed.</Typography>
      {[...changed, ...gone.map(({ rung }) => ({ rung, text: "nothing any more." }))].map(({ rung, text }) => {
        const before = rests.find((one) => one.rung === rung)?.text;
        return (
          <Typography key={rung} variant="body2" component="p">
            {rungText(rung)}: {before && <del>{before}</del>} <ins>{text}</ins>
          </Typography>
        );
      })}
      <Button variant="text" size="small" onClick={() => onSeen(now)}>
        The words stand
      </Button>
    </Box>
  );
}
