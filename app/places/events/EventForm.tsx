import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useForm, useWatch } from "react-hook-form";
import { useSubmit } from "react-router";
import { EventDto } from "#contracts/event";
import { EVENT_KINDS, type EventKind } from "#core/events/event";
import type { StoredEvent } from "../../../server/events/events.ts";
import { dtoResolver } from "../../parts/dtoResolver.ts";

export interface Values {
  kind: EventKind;
  title: string;
  date: string;
  clock: string;
  allDay: boolean;
  impact: string;
  currencies: string;
  region: string;
  sector: string;
  markets: string[];
  forecast: string;
  previous: string;
  actual: string;
}

/** Where a field of what is sent is typed. */
const FIELD_OF = (path: string) => (path === "at" ? "date" : path.replace(/\..*$/, ""));

/** What is sent of the fields as they are typed. */
export function said(values: Values, id = ""): Record<string, unknown> {
  const { date, clock, impact, currencies, forecast, previous, actual, ...rest } = values;
  const figures = Object.entries({ forecast, previous, actual }).filter(([, text]) => text.trim() !== "");
  return {
    id,
    ...rest,
    title: rest.title.trim(),
    at: Date.parse(`${date}T${rest.allDay ? "00:00" : clock}:00Z`),
    impact: Number(impact),
    currencies: currencies
      .split(/[;,]/)
      .map((one) => one.trim())
      .filter(Boolean),
    ...Object.fromEntries(figures),
  };
}

/** An event entered by hand, or changed. */
export function EventForm({
  event,
  markets,
  now,
  onLeave,
}: {
  event: StoredEvent | undefined;
  markets: readonly { id: string; name: string }[];
  now: number;
  onLeave(): void;
}) {
  const submit = useSubmit();
  const at = new Date(event?.at ?? now).toISOString();
  const { register, control, handleSubmit, formState } = useForm<Values>({
    resolver: dtoResolver(EventDto, (values: Values) => said(values, event?.id), FIELD_OF),
    defaultValues: {
      kind: event?.kind ?? "release",
      title: event?.title ?? "",
      date: at.slice(0, 10),
      clock: at.slice(11, 16),
      allDay: event?.allDay ?? false,
      impact: String(event?.impact ?? 2),
      currencies: event?.currencies.join("; ") ?? "",
      region: event?.region ?? "",
      sector: event?.sector ?? "",
      markets: event?.markets ?? [],
      forecast: event?.forecast ?? "",
      previous: event?.previous ?? "",
      actual: event?.actual ?? "",
    },
  });
  const allDay = useWatch({ control, name: "allDay" });
  const save = (values: Values) => {
    void submit({ step: "save", event: JSON.stringify(said(values, event?.id)) }, { method: "post" });
    onLeave();
  };
  const { errors } = formState;
  const text = (name: "region" | "sector" | "currencies" | "forecast" | "previous" | "actual", label: string) => (
    <TextField label={label} error={!!errors[name]} helperText={errors[name]?.message} {...register(name)} />
  );
  return (
    <Box
      component="form"
      aria-label="Event"
      onSubmit={(submitted) => void handleSubmit(save)(submitted)}
      noValidate
      sx={{ borderTop: "1.5px solid", borderBottom: 1, borderColor: "text.primary", py: 1.5, mb: 2 }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "2fr 1fr 1fr 1fr" }, gap: 2 }}>
        <TextField label="Title" error={!!errors.title} helperText={errors.title?.message} {...register("title")} />
        <TextField select label="Kind" defaultValue={event?.kind ?? "release"} {...register("kind")}>
          {EVENT_KINDS.map((kind) => (
            <MenuItem key={kind} value={kind}>
              {kind}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Date"
          type="date"
          error={!!errors.date}
          helperText={errors.date?.message}
          {...register("date")}
        />
        <TextField label="Time, UTC" type="time" disabled={allDay} {...register("clock")} />
        {text("currencies", "Currencies")}
        {text("region", "Region")}
        {text("sector", "Sector")}
        <TextField select label="It may move prices" defaultValue={String(event?.impact ?? 2)} {...register("impact")}>
          <MenuItem value="1">a little</MenuItem>
          <MenuItem value="2">some</MenuItem>
          <MenuItem value="3">much</MenuItem>
        </TextField>
        <TextField
          select
          label="Markets it names"
          defaultValue={event?.markets ?? []}
          slotProps={{ select: { multiple: true } }}
          {...register("markets")}
        >
          {markets.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        {text("forecast", "Forecast")}
        {text("previous", "Previous")}
        {text("actual", "Actual")}
      </Box>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", mt: 1 }}>
        <FormControlLabel
          control={<Checkbox size="small" defaultChecked={event?.allDay ?? false} {...register("allDay")} />}
          label="The whole day"
          sx={{ flex: 1 }}
        />
        <Button type="submit" variant="contained">
          Save
        </Button>
        <Button onClick={onLeave}>Close</Button>
      </Box>
      <Typography variant="caption" color="text.secondary">
        It touches every market that shares a currency (of its legs, too), a region or a sector with it, and those it
        names.
      </Typography>
    </Box>
  );
}
