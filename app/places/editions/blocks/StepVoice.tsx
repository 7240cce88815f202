import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { SpokenStep, WalkStep } from "#core/edition/blocks";
import { useRecorder } from "./useRecorder.ts";

interface Props {
  step: WalkStep;
  name: string;
  /** Address that takes recordings in, and gives them with `?of=` their digest. */
  address: string;
  onChange(voice: SpokenStep | undefined): void;
}

/** A step said aloud: recorded here, heard again, taken out. Its sentence is its caption. */
export function StepVoice({ step: { text, voice }, name, address, onChange }: Props) {
  const { state, seconds, sentence, begin, end } = useRecorder(address, ({ sha256, seconds: length }) =>
    onChange({ sha256, seconds: length, said: text }),
  );
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1, mt: 0.5 }}>
      {state === "recording" ? (
        <Button variant="outlined" onClick={end}>
          Stop at {seconds} s
        </Button>
      ) : (
        <Button variant="text" disabled={state === "storing" || text.trim() === ""} onClick={() => void begin()}>
          {voice ? `Say ${name} anew` : `Say ${name} aloud`}
        </Button>
      )}
      {voice && state === "idle" && (
        <>
          <audio controls preload="none" src={`${address}?of=${voice.sha256}`} aria-label={`${name}, said aloud`} />
          <Button variant="text" onClick={() => onChange(undefined)}>
            Take the voice out
          </Button>
        </>
      )}
      <Typography variant="body2" color="text.secondary" role="status">
        {sentence || (voice && voice.said !== text ? "The sentence has changed since it was said." : "")}
      </Typography>
    </Box>
  );
}
