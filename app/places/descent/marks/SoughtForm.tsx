import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { FINDING_DEFAULTS, FINDING_PARAMS, type FindingParams } from "#core/finding/params";
import { failureText, postJson } from "../../../parts/post.ts";
import { NumberField } from "../../../parts/NumberField.tsx";

interface Props {
  params: FindingParams;
  /** The set of rungs they are for. */
  set: string;
  onSaved(): void;
  onClose(): void;
}

/** What the machine looks for, in numbers: each is taken at once, and what is offered changes with it. */
export function SoughtForm({ params, set, onSaved, onClose }: Props) {
  const [trouble, setTrouble] = useState("");
  const [said, setSaid] = useState(params);
  const save = async (next: FindingParams) => {
    setSaid(next);
    const posted = await postJson<FindingParams>("/rungs/finding", { set, params: next });
    setTrouble(posted.ok ? "" : failureText(posted.failure));
    if (posted.ok) onSaved();
    else setSaid(said);
  };
  return (
    <Box
      component="section"
      aria-label="What is looked for"
      sx={{ display: "grid", gridTemplateColumns: "1fr", rowGap: 1, my: 1 }}
    >
      {FINDING_PARAMS.map(({ name, title, unit, least, most, whole }) => (
        <NumberField
          key={name}
          label={`${title} (${unit})`}
          value={said[name]}
          decimals={whole ? 0 : 2}
          problem={(value) =>
            value >= least && value <= most && (!whole || Number.isInteger(value))
              ? undefined
              : `A ${whole ? "whole " : ""}number from ${least} to ${most}.`
          }
          onCommit={(value) => void save({ ...said, [name]: value })}
        />
      ))}
      {trouble && (
        <Typography variant="body2" role="alert" sx={{ fontWeight: 600 }}>
          {trouble}
        </Typography>
      )}
      <Box>
        <Button variant="text" onClick={() => void save(FINDING_DEFAULTS)}>
          As at first
        </Button>
        <Button variant="text" onClick={onClose}>
          Close
        </Button>
      </Box>
    </Box>
  );
}
