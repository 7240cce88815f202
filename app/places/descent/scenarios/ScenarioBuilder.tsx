import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import type { MarketFacts } from "#core/marks/kind";
import { rungText } from "#core/marks/wording";
import type { Scenario } from "#core/scenarios/scenario";
import { failureText, postJson } from "../../../parts/post.ts";
import { checkFields, emptyFields, fieldsOf, scenarioOf, type ScenarioFields } from "./scenarioForm.ts";
import { ScenarioRuler } from "./ScenarioRuler.tsx";

export interface StoredScenarioOnPage {
  scenario: Scenario;
  version: number;
  /** When it was first written, on the market's clock. */
  writtenAt: number;
}

interface Props {
  market: MarketFacts;
  rung: string;
  /** Rungs whose candles may trigger. */
  tradable: readonly string[];
  now: number;
  stored?: StoredScenarioOnPage | undefined;
  /** What is known of a new one. */
  seed?: Partial<ScenarioFields>;
  onSaved(stored: StoredScenarioOnPage): void;
  onRemoved(id: string): void;
  onClose(): void;
}

/** A scenario sentence by sentence, with reward to risk worked out as it is typed. */
export function ScenarioBuilder({ market, rung, tradable, now, stored, seed, onSaved, onRemoved, onClose }: Props) {
  const zone = "utc";
  const [id] = useState(() => stored?.scenario.id ?? crypto.randomUUID());
  const [trouble, setTrouble] = useState("");
  const { register, control, handleSubmit, formState } = useForm<ScenarioFields>({
    defaultValues: stored
      ? fieldsOf(stored.scenario, market.decimals, zone)
      : { ...emptyFields(rung, now, zone), ...seed },
  });
  // The Sheet may have more above it than is in sight.
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    // Newer browsers answer with a promise, which is no clean-up.
    void form.current?.scrollIntoView({ block: "start" });
  }, []);
  const fields = useWatch({ control }) as ScenarioFields;
  const rungs = [...new Set([...tradable, fields.triggerTimeframe])];
  const scenario = scenarioOf(fields, id, zone);
  const { faults, warnings } = checkFields(scenario, now);
  const tried = formState.isSubmitted;
  const text = (name: keyof ScenarioFields, label: string) => {
    // While a field is still empty it is not at fault; once it says something, or the form was sent, it may be.
    const fault = tried || fields[name].trim() !== "" ? faults[name] : undefined;
    return (
      <TextField
        label={label}
        {...register(name)}
        error={!!fault}
        helperText={fault}
        slotProps={{ inputLabel: { shrink: true } }}
      />
    );
  };
  const choice = (name: keyof ScenarioFields, label: string, options: [string, string][]) => (
    <TextField select label={label} {...register(name)} value={fields[name]}>
      {options.map(([value, shown]) => (
        <MenuItem key={value} value={value}>
          {shown}
        </MenuItem>
      ))}
    </TextField>
  );
  const send = async (step: "save" | "remove") => {
    const version = stored?.version ?? 0;
    const posted = await postJson<StoredScenarioOnPage>(`/descent/${market.id}/scenarios`, {
      step,
      version,
      scenario: scenario,
      writtenAt: now,
    });
    if (!posted.ok) return setTrouble(failureText(posted.failure));
    if (step === "remove") onRemoved(id);
    else onSaved(posted.value);
  };
  const save = handleSubmit(async () => {
    if (Object.keys(faults).length > 0) return setTrouble("Some fields are not as they should be; nothing was saved.");
    await send("save");
  });
  return (
    <Box component="form" ref={form} aria-label="Scenario" onSubmit={(event) => void save(event)} noValidate>
      {text("title", "Scenario")}
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.25, mt: 1.25 }}>
        {choice("direction", "Direction", [
          ["long", "long"],
          ["short", "short"],
        ])}
        {choice(
          "triggerTimeframe",
          "If a candle of",
          rungs.map((one) => [one, rungText(one)]),
        )}
        {choice("triggerEvent", "closes", [
          ["closeAbove", "above"],
          ["closeBelow", "below"],
        ])}
        {text("triggerPrice", "this price")}
        {choice("order", "then enter", [
          ["market", "at the next open"],
          ["limit", "by limit order"],
          ["stop", "by stop order"],
        ])}
        {text("entry", fields.order === "market" ? "Entry, about" : "Entry")}
        {text("stop", "Stop")}
        {text("invalidation", "Wrong beyond")}
        {text("target1", "Target 1")}
        {text("target2", "Target 2")}
      </Box>
      <Box sx={{ mt: 1.25 }}>
        <TextField
          type="datetime-local"
          label="Lapses at (UTC)"
          {...register("expiry")}
          error={!!faults.expiry}
          helperText={faults.expiry}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      </Box>
      <Box sx={{ mt: 1.25 }}>
        <TextField
          label="Premise"
          multiline
          maxRows={4}
          {...register("premise")}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      </Box>
      <ScenarioRuler scenario={scenario} market={market} />
      {warnings.map((sentence) => (
        <Typography key={sentence} variant="body2" role="alert" sx={{ fontWeight: 600, mt: 1 }}>
          {sentence}
        </Typography>
      ))}
      {trouble && (
        <Typography variant="body2" role="alert" sx={{ fontWeight: 600, mt: 1 }}>
          {trouble}
        </Typography>
      )}
      <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
        <Button type="submit" variant="contained">
          Save scenario
        </Button>
        <Button variant="text" onClick={onClose}>
          Close
        </Button>
        {stored && (
          <Button variant="text" onClick={() => void send("remove")}>
            Remove
          </Button>
        )}
      </Box>
    </Box>
  );
}
