import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useFieldArray, useForm, useWatch } from "react-hook-form";
import { Link, redirect, useNavigation, useSubmit } from "react-router";
import { DeriveMarketDto } from "#contracts/derive";
import { formulaText, isSum, type Form as FormName, type Formula } from "#core/series/formula";
import { deriveMarket } from "../../../server/bars/derive.ts";
import { listMarkets } from "../../../server/bars/markets.ts";
import { answer, attempt, readField, readForm } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/derive.ts";

export const meta: Route.MetaFunction = () => [{ title: "A market of others - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({ markets: (await listMarkets()).map(({ id, name }) => ({ id, name })) }));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const { id } = await deriveMarket(readField(await readForm(request), "market", DeriveMarketDto));
    throw redirect(`/library/${id}`);
  });
}

const FORMS: [FormName, string, string][] = [
  ["product", "a cross by multiplying", "The first market times the second: the currencies they share cancel out."],
  ["quotient", "a cross by dividing", "The first market divided by the second: the currencies they share cancel out."],
  ["ratio", "a ratio", "How the first does against the second. With a scale of 100 it reads in percent."],
  ["spread", "a spread", "Units of the first less units of the second, and so on; what is sold has a minus."],
  [
    "basket",
    "a basket",
    "Markets by their weights, 100 on the first day they all closed. Equal weights make an equal basket.",
  ],
];

interface Values {
  name: string;
  form: FormName;
  legs: { market: string; units: string }[];
  scale: string;
  tick: string;
  decimals: string;
  hoursOf: string;
}

const number = (text: string) => (text.trim() === "" ? NaN : Number(text.replace(",", ".").replace("\u2212", "-")));

/** A form for a market that is made of others. */
export default function Derive({ loaderData: { markets }, actionData }: Route.ComponentProps) {
  const start = { name: "", form: "spread" as const, scale: "1", tick: "0.01", decimals: "2", hoursOf: "" };
  const legs = [0, 1].map((i) => ({ market: markets[i]?.id ?? "", units: i === 0 ? "1" : "-1" }));
  const { register, control, handleSubmit } = useForm<Values>({ defaultValues: { ...start, legs } });
  const { fields, append, remove } = useFieldArray({ control, name: "legs" });
  const values = useWatch({ control }) as Values;
  const submit = useSubmit();
  const busy = useNavigation().state !== "idle";
  const failure = actionData?.failure;
  const formula = formulaOf(values);
  const send = () => {
    const { name, tick, decimals, hoursOf } = values;
    void submit(
      { market: JSON.stringify({ name, ...formula, tick: number(tick), decimals: number(decimals), hoursOf }) },
      { method: "post" },
    );
  };
  const text = (field: "name" | "scale" | "tick" | "decimals", label: string) => (
    <TextField
      label={label}
      error={!!failure?.fields?.[field]}
      helperText={failure?.fields?.[field]}
      {...register(field)}
    />
  );
  const choices = markets.map(({ id, name }) => (
    <MenuItem key={id} value={id}>
      {name}
    </MenuItem>
  ));
  return (
    <Page>
      <PageTitle>A market made of others</PageTitle>
      <Box
        component="form"
        aria-label="A market made of others"
        onSubmit={(event) => void handleSubmit(send)(event)}
        sx={{ display: "grid", gap: 2.5, maxWidth: 720 }}
      >
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 2.5 }}>
          {text("name", "Name")}
          <TextField
            select
            label="It is"
            defaultValue="spread"
            helperText={FORMS.find(([form]) => form === values.form)?.[2]}
            {...register("form")}
          >
            {FORMS.map(([form, title]) => (
              <MenuItem key={form} value={form}>
                {title}
              </MenuItem>
            ))}
          </TextField>
        </Box>
        {fields.map((field, i) => (
          <Box
            key={field.id}
            role="group"
            aria-label={`Market ${i + 1}`}
            sx={{ display: "grid", gridTemplateColumns: "1fr 140px 90px", gap: 2, alignItems: "end" }}
          >
            <TextField select label={`Market ${i + 1}`} defaultValue={field.market} {...register(`legs.${i}.market`)}>
              {choices}
            </TextField>
            {isSum(values) ? (
              <TextField label={values.form === "basket" ? "Weight" : "Units"} {...register(`legs.${i}.units`)} />
            ) : (
              <span />
            )}
            <Button variant="text" onClick={() => remove(i)} disabled={fields.length <= 2}>
              Remove
            </Button>
          </Box>
        ))}
        {values.form !== "quotient" && values.form !== "ratio" && (
          <Box>
            <Button onClick={() => append({ market: markets[0]?.id ?? "", units: "1" })}>Add a market</Button>
          </Box>
        )}
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr 1.6fr", gap: 2.5 }}>
          {text("scale", "Times")}
          {text("tick", "Tick")}
          {text("decimals", "Decimals")}
          <TextField
            select
            label="Sessions of"
            defaultValue=""
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            {...register("hoursOf")}
          >
            <MenuItem value="">the one open the shortest</MenuItem>
            {choices}
          </TextField>
        </Box>
        <Typography>
          <strong>{values.name || "It"}</strong> ={" "}
          {formulaText(formula, (id) => markets.find((market) => market.id === id)?.name ?? "?")}
        </Typography>
        {failure && (
          <Typography role="alert" sx={{ fontWeight: 600 }}>
            {failureText(failure)}
          </Typography>
        )}
        <Box sx={{ display: "flex", gap: 1.5 }}>
          <Button type="submit" variant="contained" disabled={busy}>
            Make it
          </Button>
          <Button component={Link} to="/library" variant="text">
            Leave it
          </Button>
        </Box>
      </Box>
    </Page>
  );
}

/**
 * The formula as it stands in the form: in a product every leg counts once, the second of a quotient below the line.
 */
function formulaOf({ form, legs, scale }: Values): Formula {
  const pair = form === "quotient" || form === "ratio";
  const used = pair ? legs.slice(0, 2) : legs;
  const power = (i: number) => (pair && i > 0 ? -1 : 1);
  return {
    form,
    scale: number(scale),
    legs: used.map(({ market, units }, i) => ({ market, units: isSum({ form }) ? number(units) : power(i) })),
  };
}
