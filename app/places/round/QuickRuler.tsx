import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Area } from "#core/areas/areas";
import { percentText, priceText } from "#core/marks/wording";
import { rulerAt } from "#core/round/ruler";
import { rewardToRisk, type Setup } from "#core/round/setup";
import type { BoardRow } from "../../../server/round/board.ts";
import { parseNumber } from "../../parts/numbers.ts";
import { failureText, postJson } from "../../parts/post.ts";

interface Props {
  row: BoardRow;
  rung: string;
  price: number;
  atr: number;
  areas: readonly Area[];
  direction: Setup["direction"];
}

/** Reward to risk from where price is, before any plan is made; what is not taken can be noted with its reason. */
export function QuickRuler({ row, rung, price, atr, areas, direction: first }: Props) {
  const proposed = (way: Setup["direction"]) => {
    const { entry, stop, target } = rulerAt(way, price, areas, atr, row.tick);
    return {
      direction: way,
      entry: priceText(entry, row),
      stop: priceText(stop, row),
      target: target === undefined ? "" : priceText(target, row),
    };
  };
  const [fields, setFields] = useState(() => proposed(first));
  const [what, setWhat] = useState<Setup["what"]>("passed");
  const [reason, setReason] = useState("");
  const [said, setSaid] = useState("");
  const setup = {
    direction: fields.direction,
    entry: parseNumber(fields.entry),
    stop: parseNumber(fields.stop),
    target: parseNumber(fields.target),
  };
  const ratio = rewardToRisk(setup);
  const risk = Math.abs(setup.entry - setup.stop);
  const field = (name: "entry" | "stop" | "target", label: string) => (
    <TextField
      label={label}
      value={fields[name]}
      onChange={(event) => setFields({ ...fields, [name]: event.target.value })}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
    />
  );
  const note = async () => {
    const posted = await postJson("/round/setups", { market: row.id, rung, what, reason: reason.trim(), ...setup });
    setSaid(posted.ok ? `Noted as ${what}. It is followed with the past rounds.` : failureText(posted.failure));
    if (posted.ok) setReason("");
  };
  return (
    <Box component="section" aria-label="Reward to risk" sx={{ mt: 1.25, borderTop: 1, borderColor: "divider", pt: 1 }}>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
        <TextField
          select
          label="Direction"
          value={fields.direction}
          onChange={(event) => setFields(proposed(event.target.value as Setup["direction"]))}
        >
          <MenuItem value="long">long</MenuItem>
          <MenuItem value="short">short</MenuItem>
        </TextField>
        {field("entry", "Entry")}
        {field("stop", "Stop")}
        {field("target", "Target")}
      </Box>
      <Typography sx={{ mt: 0.75 }} role="status">
        {ratio === undefined ? (
          fields.target === "" ? (
            "No area ahead: type a target."
          ) : (
            "Stop and target stand on the wrong sides."
          )
        ) : (
          <>
            <strong>{ratio.toFixed(2)} : 1</strong>
            {`, risk ${priceText(risk / row.pip, { decimals: 1 })} ${row.pipName}, `}
            {percentText(risk / Math.abs(setup.entry), 2)}
            {ratio < 1 ? ": not worth it" : ""}
          </>
        )}
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "84px 1fr auto", gap: 1, alignItems: "end", mt: 0.5 }}>
        <TextField
          select
          label="Not taken"
          value={what}
          onChange={(event) => setWhat(event.target.value as Setup["what"])}
        >
          <MenuItem value="passed">passed</MenuItem>
          <MenuItem value="missed">missed</MenuItem>
        </TextField>
        <TextField label="Reason" value={reason} onChange={(event) => setReason(event.target.value.slice(0, 500))} />
        <Button onClick={() => void note()} disabled={ratio === undefined || reason.trim() === ""}>
          Note
        </Button>
      </Box>
      {said && (
        <Typography variant="caption" role="alert" component="p">
          {said}
        </Typography>
      )}
    </Box>
  );
}
