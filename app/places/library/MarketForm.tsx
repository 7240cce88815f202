import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { Controller, useFieldArray, useForm } from "react-hook-form";
import { useNavigation, useSubmit } from "react-router";
import { closuresText, readClosures } from "#core/csv/closures";
import type { Ties } from "#core/events/touches";
import { plainNumber } from "#core/marks/wording";
import type { AboutMarket } from "../../../server/bars/about.ts";
import { failureText, type FailureBody } from "../../parts/post.ts";

interface Values {
  name: string;
  kind: string;
  tick: string;
  pip: string;
  pipName: string;
  decimals: string;
  zone: string;
  sessions: { days: number[]; open: string; close: string; opensDayBefore: string; kind: "regular" | "overnight" }[];
  closures: string;
  currencies: string;
  region: string;
  sector: string;
}

const KINDS = ["currency", "commodity", "index", "share", "other"];
const DAYS = ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"];

/** Everything about a market that is no bar: how its prices are written, and when it trades. */
export function MarketForm({
  market,
  derived,
  failure,
  saved,
}: {
  market: AboutMarket & { ties: Ties };
  derived: boolean;
  failure: FailureBody | undefined;
  saved: boolean;
}) {
  const { name, kind, tick, pip, pipName, decimals, calendar, ties } = market;
  const { register, control, handleSubmit, formState, setError } = useForm<Values>({
    defaultValues: {
      name,
      kind,
      tick: plainNumber(tick),
      pip: plainNumber(pip),
      pipName,
      decimals: String(decimals),
      zone: calendar.zone,
      sessions: calendar.sessions.map((one) => ({
        days: one.days,
        open: one.open,
        close: one.close,
        opensDayBefore: one.opensDayBefore ? "yes" : "no",
        kind: one.kind ?? "regular",
      })),
      closures: closuresText(calendar),
      currencies: ties.currencies.join("; "),
      region: ties.region,
      sector: ties.sector,
    },
  });
  const { fields, append, remove } = useFieldArray({ control, name: "sessions" });
  const submit = useSubmit();
  const busy = useNavigation().state !== "idle";
  const save = (values: Values) => {
    const { closures, sessions, tick: step, pip: unit, decimals: digits, currencies, region, sector, ...rest } = values;
    const { faults, ...closed } = readClosures(closures);
    if (faults.length > 0) {
      const told = faults.slice(0, 5).map(({ line, sentence }) => `Line ${line}: ${sentence}`);
      const more = faults.length > 5 ? ` And ${faults.length - 5} more.` : "";
      setError("closures", { message: `${told.join(" ")}${more} Nothing was changed.` }, { shouldFocus: true });
      return;
    }
    const dto = {
      ...rest,
      tick: Number(step.replace(",", ".")),
      pip: Number(unit.replace(",", ".")),
      decimals: Number(digits),
      sessions: sessions.map((one) => ({ ...one, opensDayBefore: one.opensDayBefore === "yes" })),
      ...closed,
      ties: {
        currencies: currencies
          .split(/[;,]/)
          .map((one) => one.trim())
          .filter(Boolean),
        region: region.trim(),
        sector: sector.trim(),
      },
    };
    void submit({ step: "save", market: JSON.stringify(dto) }, { method: "post", preventScrollReset: true });
  };
  const text = (
    field: "name" | "tick" | "pip" | "pipName" | "decimals" | "zone" | "currencies" | "region" | "sector",
    label: string,
  ) => (
    <TextField
      label={label}
      error={!!failure?.fields?.[field]}
      helperText={failure?.fields?.[field]}
      {...register(field)}
    />
  );
  const trouble = Object.entries(failure?.fields ?? {}).find(([field]) =>
    /^(sessions|holidays|halfDays)/.test(field),
  )?.[1];
  return (
    <Box component="form" aria-label="The market" onSubmit={(event) => void handleSubmit(save)(event)}>
      <Box sx={{ display: "grid", gridTemplateColumns: "2fr 1fr 1fr 1fr", gap: 2 }}>
        {text("name", "Name")}
        <TextField select label="Kind" defaultValue={kind} {...register("kind")}>
          {[...new Set([...KINDS, kind])].map((one) => (
            <MenuItem key={one} value={one}>
              {one}
            </MenuItem>
          ))}
        </TextField>
        {text("tick", "Tick")}
        {text("decimals", "Decimals")}
        {text("zone", "Zone of its clock")}
        {text("pip", "Unit of distance")}
        {text("pipName", "Its name")}
        <span />
        {text("currencies", derived ? "Currencies, besides its legs'" : "Currencies")}
        {text("region", "Region")}
        {text("sector", "Sector")}
      </Box>
      <Typography variant="h3" sx={{ mt: 3, mb: 1 }}>
        Sessions
      </Typography>
      {fields.map((field, i) => (
        <Box
          key={field.id}
          role="group"
          aria-label={`Session ${i + 1}`}
          sx={{
            display: "grid",
            gridTemplateColumns: "186px 64px 160px 64px 120px auto",
            justifyContent: "start",
            gap: 1.5,
            alignItems: "end",
            mb: 1,
          }}
        >
          <Controller
            control={control}
            name={`sessions.${i}.days`}
            render={({ field: { value, onChange } }) => (
              <ToggleButtonGroup
                size="small"
                value={value}
                onChange={(_event, days: number[]) => onChange(days)}
                aria-label="Trading dates"
              >
                {DAYS.map((day, n) => (
                  <ToggleButton
                    key={day}
                    value={n + 1}
                    sx={{
                      px: 0.6,
                      py: 0.2,
                      textTransform: "none",
                      color: "text.secondary",
                      "&.Mui-selected": { bgcolor: "text.primary", color: "background.paper" },
                      "&.Mui-selected:hover": { bgcolor: "text.primary" },
                    }}
                  >
                    {day}
                  </ToggleButton>
                ))}
              </ToggleButtonGroup>
            )}
          />
          <TextField label="Opens" {...register(`sessions.${i}.open`)} />
          <TextField
            select
            label="on"
            defaultValue={field.opensDayBefore}
            {...register(`sessions.${i}.opensDayBefore`)}
          >
            <MenuItem value="no">the date itself</MenuItem>
            <MenuItem value="yes">the evening before</MenuItem>
          </TextField>
          <TextField label="Closes" {...register(`sessions.${i}.close`)} />
          <TextField select label="Is" defaultValue={field.kind} {...register(`sessions.${i}.kind`)}>
            <MenuItem value="regular">regular</MenuItem>
            <MenuItem value="overnight">overnight</MenuItem>
          </TextField>
          <Button variant="text" onClick={() => remove(i)}>
            Remove
          </Button>
        </Box>
      ))}
      <Button
        variant="outlined"
        onClick={() =>
          append({ days: [1, 2, 3, 4, 5], open: "09:00", close: "17:00", opensDayBefore: "no", kind: "regular" })
        }
      >
        Add a session
      </Button>
      <TextField
        label="Holidays, a date on each line; with a time it is a half day that closes then"
        multiline
        minRows={3}
        maxRows={8}
        {...register("closures")}
        error={formState.errors.closures !== undefined}
        helperText={formState.errors.closures?.message}
        sx={{ mt: 2.5 }}
        slotProps={{ htmlInput: { spellCheck: false } }}
      />
      {failure && (
        <Typography role="alert" sx={{ mt: 1.5, fontWeight: 600 }}>
          {trouble ? `${trouble} Nothing was changed.` : failureText(failure)}
        </Typography>
      )}
      <Box sx={{ mt: 2, display: "flex", gap: 2, alignItems: "baseline" }}>
        <Button type="submit" variant="contained" disabled={busy}>
          {busy ? "Saving ..." : "Save"}
        </Button>
        <Typography variant="body2" role="status">
          {saved && !formState.isDirty
            ? "Saved. Every rung is cut anew by these sessions."
            : derived
              ? "Bars of a derived market come from its legs."
              : ""}
        </Typography>
      </Box>
    </Box>
  );
}
