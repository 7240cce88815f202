import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { RULES, type CheckLine } from "#core/written/checklist";
import { countText } from "#core/marks/wording";
import { useBuilder } from "./builder.ts";

/** What speaks against a scenario, with its numbers and its rule; a line can be waived with a reason that is kept. */
export function Checklist({ lines }: { lines: readonly CheckLine[] }) {
  const [all, setAll] = useState(false);
  const { draft } = useBuilder();
  const against = lines.filter((line) => line.against);
  const open = against.filter(({ rule }) => !draft.waived[rule]);
  const shown = all ? lines : against;
  return (
    <Box component="section" aria-label="Checklist" sx={{ mt: 1.5 }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="h3">
          {open.length === 0
            ? "Nothing speaks against it"
            : `${countText(open.length, "thing speaks", "things speak")} against it`}
        </Typography>
        <Button variant="text" onClick={() => setAll(!all)} aria-expanded={all}>
          {all ? "Only those" : `All ${lines.length}`}
        </Button>
      </Box>
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {shown.map((line) => (
          <Rule key={line.rule} line={line} />
        ))}
      </Box>
    </Box>
  );
}

function Rule({ line: { rule, against, sentence } }: { line: CheckLine }) {
  const { draft, write } = useBuilder();
  const [reason, setReason] = useState<string>();
  const waived = draft.waived[rule];
  const mark = against === undefined ? "?" : against ? (waived ? "\u2013" : "\u2715") : "\u2713";
  const waive = () => {
    if (reason?.trim()) write({ waived: { ...draft.waived, [rule]: reason.trim().slice(0, 300) } });
    setReason(undefined);
  };
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: "16px minmax(0, 1fr)",
        columnGap: 0.75,
        py: 0.25,
        fontSize: "0.875rem",
      }}
    >
      <Box
        component="span"
        aria-label={against === undefined ? "not known" : against ? "against it" : "as it should be"}
        sx={{ fontWeight: 600 }}
      >
        {mark}
      </Box>
      <Box>
        <Box component="span" sx={{ fontWeight: against && !waived ? 600 : 400 }}>
          {sentence}
        </Box>{" "}
        <Box component="span" sx={{ color: "text.secondary" }}>
          {RULES[rule]}
        </Box>
        {waived && (
          <Typography variant="body2" sx={{ fontStyle: "italic" }}>
            Waived: {waived}{" "}
            <Button
              variant="text"
              sx={{ p: 0 }}
              onClick={() =>
                write({ waived: Object.fromEntries(Object.entries(draft.waived).filter(([one]) => one !== rule)) })
              }
            >
              Hold it again
            </Button>
          </Typography>
        )}
        {against && !waived && reason === undefined && (
          <Button variant="text" sx={{ p: 0, ml: 0.5 }} onClick={() => setReason("")}>
            Waive
          </Button>
        )}
        {reason !== undefined && (
          <TextField
            autoFocus
            label="It is waived because"
            value={reason}
            onChange={({ target: { value } }) => setReason(value)}
            onBlur={waive}
            onKeyDown={({ key }) => {
              if (key === "Enter") waive();
              if (key === "Escape") setReason(undefined);
            }}
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
        )}
      </Box>
    </Box>
  );
}
