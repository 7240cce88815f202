import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState, useSyncExternalStore } from "react";

/** Each sentence and the thing on the page it speaks of. */
const SENTENCES: readonly { at: string; says: string }[] = [
  {
    at: "[aria-label=Rungs]",
    says: "These are the rungs of the market, walked from high to low: choose one here, or press N for the next.",
  },
  {
    at: "[aria-label=Steps]",
    says:
      "These are the steps of the work: choose one, or press its key, and click on the chart where the mark " +
      "belongs.",
  },
  {
    at: "[data-chart]",
    says: "On the chart a right click, a resting finger or Enter opens everything that can be placed or done there.",
  },
  {
    at: "[aria-label=Sheet]",
    says:
      "The Sheet says what your marks amount to on this rung, holds their exact prices, and is where " +
      "scenarios are written.",
  },
  {
    at: "[aria-label=View]",
    says: "Here is how the chart is looked at; Ctrl K finds everything else, and the question mark shows all keys.",
  },
];

const READ = "compass-guide-read";
const listeners = new Set<() => void>();

function isRead(): boolean {
  try {
    return localStorage.getItem(READ) === "yes";
  } catch {
    return true;
  }
}

function setRead(read: boolean): void {
  try {
    if (read) localStorage.setItem(READ, "yes");
    else localStorage.removeItem(READ);
  } catch {
    // Where the browser stores nothing the guide is not shown at all.
  }
  listeners.forEach((listener) => listener());
}

/** Shows the guide once more. */
export function showGuide(): void {
  setRead(false);
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** On the first visit: five sentences, each with the thing it speaks of outlined. */
export function Guide() {
  const read = useSyncExternalStore(subscribe, isRead, () => true);
  return read ? null : <Sentences />;
}

function Sentences() {
  const [step, setStep] = useState(0);
  const { at, says } = SENTENCES[step];
  const note = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const thing = document.querySelector<HTMLElement>(at);
    if (!thing || !note.current?.offsetParent) return;
    const { outline, outlineOffset } = thing.style;
    Object.assign(thing.style, { outline: "2px solid currentColor", outlineOffset: "-2px" });
    return () => void Object.assign(thing.style, { outline, outlineOffset });
  }, [at]);
  const last = step === SENTENCES.length - 1;
  return (
    <Box
      ref={note}
      role="note"
      aria-label="First steps"
      sx={{
        // Its sentences speak of keys, and of what stands beside each other.
        display: { xs: "none", md: "flex" },
        alignItems: "center",
        gap: 1.5,
        px: 2,
        py: 0.25,
        bgcolor: "background.paper",
        borderBottom: 1,
        borderColor: "divider",
      }}
    >
      <Typography variant="body2" sx={{ fontWeight: 600 }}>
        {step + 1} of {SENTENCES.length}
      </Typography>
      <Typography variant="body2" sx={{ flex: 1 }} role="status">
        {says}
      </Typography>
      {!last && (
        <Button variant="text" onClick={() => setRead(true)}>
          Leave
        </Button>
      )}
      <Button onClick={() => (last ? setRead(true) : setStep(step + 1))} sx={{ py: 0 }}>
        {last ? "Begin" : "Next"}
      </Button>
    </Box>
  );
}
