import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { LONGEST_WAIT, PlanDto } from "#contracts/plan";
import { NEXT_CLOSE } from "#core/readers/wait";
import { readDto } from "#contracts/read";
import { EDITION_KINDS, KIND_NAMES } from "#core/edition/blocks";
import { PART_NAMES, PARTS } from "#core/edition/parts";
import { listPlans, savePlan, type Plan } from "../../../server/accounts/plans.ts";
import { Failure } from "../../../server/failure.ts";
import { answer, attempt, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { Choices } from "../../parts/Choices.tsx";
import { failureText } from "../../parts/post.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/plans.ts";

export const meta: Route.MetaFunction = () => [{ title: "Plans - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({ plans: await listPlans() }));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const read = readDto(PlanDto, {
      name: textField(form, "name").trim(),
      parts: form.getAll("parts"),
      kinds: form.getAll("kinds"),
      wait: textField(form, "atClose") === "yes" ? NEXT_CLOSE : Number(textField(form, "wait") || "0"),
      open: textField(form, "open") === "yes",
      price: textField(form, "price").trim(),
      version: Number(textField(form, "version")),
    });
    if (!read.ok)
      throw new Failure("fields", Object.values(read.fields)[0] ?? "A field is not as it should be.", {
        status: 400,
        kept: "Nothing was changed.",
        fields: read.fields,
      });
    const id = textField(form, "id");
    const { name } = await savePlan(id === "" ? undefined : id, read.value);
    return { saved: name };
  });
}

/** What readers are shown, plan by plan. */
export default function Plans({ loaderData: { plans }, actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const saved = actionData && "saved" in actionData ? actionData.saved : undefined;
  return (
    <Page>
      <PageTitle>Plans</PageTitle>
      <Typography sx={{ mb: 2, maxWidth: "62ch" }}>
        A plan says which kinds of edition its readers get, which parts of one, and how long after others. What it does
        not show is not sent: neither in words nor in pictures, which are drawn for each plan when an edition is
        published. A part added later shows in older editions, too, except in their pictures.
      </Typography>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {saved && (
        <Typography role="status" sx={{ mb: 2, fontWeight: 600 }}>
          {saved} is saved; it counts from now on.
        </Typography>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { md: "1fr 1fr" }, gap: 3 }}>
        {plans.map((plan) => (
          <PlanForm key={`${plan.id} ${plan.version}`} plan={plan} />
        ))}
        <PlanForm key={`new ${plans.length}`} />
      </Box>
    </Page>
  );
}

function PlanForm({ plan }: { plan?: Plan & { readers: number } }) {
  const title = plan ? plan.name : "A new plan";
  return (
    <Form method="post" aria-label={title}>
      <input type="hidden" name="id" value={plan?.id ?? ""} />
      <input type="hidden" name="version" value={plan?.version ?? 0} />
      <Typography variant="h2" sx={{ borderTop: "1.5px solid", pt: 1 }}>
        {title}
        {plan && (
          <Typography component="span" variant="body2" color="text.secondary" sx={{ ml: 1 }}>
            {plan.readers === 1 ? "1 reader" : `${plan.readers} readers`}
          </Typography>
        )}
      </Typography>
      <Box sx={{ display: "flex", gap: 2, my: 1 }}>
        <TextField name="name" label="Name" defaultValue={plan?.name ?? ""} size="small" required fullWidth />
        <TextField
          name="wait"
          label="Hours later"
          type="number"
          defaultValue={Math.max(0, plan?.wait ?? 0)}
          size="small"
          slotProps={{ htmlInput: { min: 0, max: LONGEST_WAIT } }}
          sx={{ width: 130 }}
        />
      </Box>
      <FormControlLabel
        label="Instead of hours: once its markets have closed"
        control={<Checkbox size="small" name="atClose" value="yes" defaultChecked={plan?.wait === NEXT_CLOSE} />}
      />
      <Box sx={{ display: "grid", gridTemplateColumns: "3fr 2fr", gap: 2 }}>
        <Choices
          name="parts"
          title="Shows"
          of={PARTS.map((part) => [part, PART_NAMES[part]])}
          chosen={plan?.parts ?? []}
        />
        <Choices
          name="kinds"
          title="Editions"
          of={KIND_NAMES.map((kind) => [kind, EDITION_KINDS[kind].name])}
          chosen={plan?.kinds ?? []}
        />
      </Box>
      <TextField
        name="price"
        label="What it costs, if it is for sale"
        defaultValue={plan?.price ?? ""}
        size="small"
        slotProps={{ htmlInput: { maxLength: 60 } }}
        sx={{ width: 260, mt: 1, mr: 2 }}
      />
      <FormControlLabel
        label="Anybody may join on it"
        control={<Checkbox size="small" name="open" value="yes" defaultChecked={plan?.open ?? false} />}
      />
      <br />
      <Button type="submit" variant={plan ? "outlined" : "contained"} sx={{ mt: 1 }}>
        {plan ? `Save ${plan.name}` : "Make this plan"}
      </Button>
    </Form>
  );
}
