import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { WalkBlock, WalkStep } from "#core/edition/blocks";
import { rungText } from "#core/marks/wording";
import { StepVoice } from "./StepVoice.tsx";

/** What the desk says of the market on its rungs, the highest first. */
export type Argument = readonly { rung: string; text: string; main: boolean }[];

interface Props {
  block: WalkBlock;
  market: string;
  rungs: readonly string[];
  argument: Argument;
  /** Address of a step's picture as it will be frozen; none before it is stored. */
  pictureOf(step: number): string | undefined;
  /** Where what is said aloud is stored. */
  voiceAddress: string;
  onChange(steps: WalkStep[]): void;
}

const MOST_STEPS = 8;
/** Rungs a walk begins with where nothing is in it yet. */
const FIRST_STEPS = 5;

/** The steps of a walk: a rung, its picture, and a sentence that begins as the desk says it. */
export function WalkFields({ block: { steps }, market, rungs, argument, pictureOf, voiceAddress, onChange }: Props) {
  const saysOf = (rung: string) => argument.find((one) => one.rung === rung)?.text;
  const replace = (i: number, part: Partial<WalkStep>) =>
    onChange(steps.map((step, n) => (n === i ? { ...step, ...part } : step)));
  const begun = (rung: string): WalkStep => {
    const says = saysOf(rung);
    return says === undefined ? { rung, text: "" } : { rung, text: says.slice(0, 1000), rests: says };
  };
  return (
    <>
      {steps.length === 0 && (
        <Button
          variant="outlined"
          disabled={argument.length === 0}
          onClick={() => onChange(argument.slice(0, FIRST_STEPS).map(({ rung }) => begun(rung)))}
        >
          Begin as the desk says it
        </Button>
      )}
      {steps.map((step, i) => (
        <Box key={i} component="fieldset" sx={{ border: 0, m: 0, p: 0, mb: 2 }}>
          <Box sx={{ display: "flex", gap: 2, alignItems: "flex-end", mb: 0.5 }}>
            <TextField
              select
              label={`Step ${i + 1} of ${market}`}
              value={step.rung}
              onChange={({ target: { value } }) => replace(i, { rung: value })}
              sx={{ width: 170 }}
            >
              {[...new Set([...rungs, step.rung])].map((rung) => (
                <MenuItem key={rung} value={rung}>
                  {rungText(rung)}
                </MenuItem>
              ))}
            </TextField>
            <Button
              variant="text"
              aria-label={`Take step ${i + 1} out`}
              onClick={() => onChange(steps.filter((_, n) => n !== i))}
            >
              Take out
            </Button>
          </Box>
          <Box sx={{ display: "grid", gridTemplateColumns: { md: "280px minmax(0, 1fr)" }, gap: 2 }}>
            {pictureOf(i) ? (
              <Box
                component="img"
                src={pictureOf(i)}
                alt={`Chart of ${market}, ${rungText(step.rung)}, as it will be frozen`}
                sx={{ width: "100%", aspectRatio: "860 / 460", border: 1, borderColor: "divider" }}
              />
            ) : (
              <span />
            )}
            <Box>
              <TextField
                label={`What step ${i + 1} says`}
                multiline
                fullWidth
                value={step.text}
                onChange={({ target: { value } }) => replace(i, { text: value })}
                slotProps={{ htmlInput: { maxLength: 1000 } }}
              />
              <Renewal step={step} says={saysOf(step.rung)} onTake={() => replace(i, begun(step.rung))} />
              <StepVoice
                {...{ step, name: `step ${i + 1}` }}
                address={voiceAddress}
                onChange={(voice) => replace(i, { voice })}
              />
            </Box>
          </Box>
        </Box>
      ))}
      {steps.length > 0 && steps.length < MOST_STEPS && (
        <Button onClick={() => onChange([...steps, begun(steps[steps.length - 1].rung)])}>Add a step</Button>
      )}
    </>
  );
}

/** What the desk says now, where a sentence rests on something else or on nothing yet. */
function Renewal({ step, says, onTake }: { step: WalkStep; says: string | undefined; onTake(): void }) {
  if (says === undefined || says === step.rests) return null;
  return (
    <Box role="note" sx={{ mt: 0.5 }}>
      <Typography variant="body2" color="text.secondary">
        {step.rests === undefined ? "The desk says: " : "What it rests on has changed. Now: "}
        {says}
      </Typography>
      <Button variant="text" size="small" onClick={onTake}>
        Say it so
      </Button>
    </Box>
  );
}
