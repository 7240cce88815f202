import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import NativeSelect from "@mui/material/NativeSelect";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { DeskSettingsDto, MOST_OF_TEMPLATE } from "#contracts/goingOut";
import { readDto } from "#contracts/read";
import { BLOCK_NAMES, EDITION_KINDS, KIND_NAMES, TEMPLATE_BLOCKS, type EditionKind } from "#core/edition/blocks";
import { MASTHEAD_PIGMENTS } from "#core/edition/masthead";
import { decide, deskSettings, type DeskSettings } from "../../../server/publishing/deskSettings.ts";
import { Failure } from "../../../server/failure.ts";
import { answer, attempt, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/deskSettings.ts";

export const meta: Route.MetaFunction = () => [{ title: "The desk - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, deskSettings);
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const chosen = (kind: EditionKind) => form.getAll(`${kind}.block`).filter((block) => block !== "");
    const read = readDto(DeskSettingsDto, {
      masthead: { name: textField(form, "name").trim(), pigment: textField(form, "pigment") },
      reading: form.get("reading") === "yes",
      templates: KIND_NAMES.map((kind) => ({ kind, blocks: chosen(kind) })),
    });
    if (!read.ok) {
      const [[path, sentence]] = Object.entries(read.fields);
      const kind = KIND_NAMES[Number(/templates\D+(\d+)/.exec(path)?.[1] ?? -1)];
      throw new Failure("fields", kind ? `${EDITION_KINDS[kind].name}: ${sentence}.` : sentence, {
        status: 400,
        kept: "Nothing was changed.",
      });
    }
    const templates = Object.fromEntries(read.value.templates.map(({ kind, blocks }) => [kind, blocks]));
    const { masthead, reading } = read.value;
    await decide({ masthead: { ...masthead }, reading, templates: templates as DeskSettings["templates"] });
    return { saved: true };
  });
}

/** What is decided once for all who work at the desk. */
export default function Desk({ loaderData: { masthead, reading, templates }, actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  return (
    <Page>
      <PageTitle>What the desk decides</PageTitle>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {actionData && "saved" in actionData && (
        <Typography role="status" sx={{ mb: 2, fontWeight: 600 }}>
          Saved; it counts from now on.
        </Typography>
      )}
      <Form method="post">
        <Typography variant="h2">At the head of what readers see</Typography>
        <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "flex-end", gap: 2, mb: 3 }}>
          <TextField
            name="name"
            label="Name of the desk"
            defaultValue={masthead.name}
            required
            slotProps={{ htmlInput: { maxLength: 60 } }}
            sx={{ width: 280 }}
          />
          <NativeSelect
            name="pigment"
            defaultValue={masthead.pigment}
            inputProps={{ "aria-label": "Pigment it is printed in" }}
          >
            {MASTHEAD_PIGMENTS.map((pigment) => (
              <option key={pigment} value={pigment}>
                in {pigment}
              </option>
            ))}
          </NativeSelect>
        </Box>
        <Typography variant="h2">Before an edition goes out</Typography>
        <FormControlLabel
          control={<Checkbox name="reading" value="yes" defaultChecked={reading} />}
          label="A colleague reads it and approves"
        />
        <Typography variant="h2" sx={{ mt: 3 }}>
          What each kind begins with
        </Typography>
        <Typography sx={{ mb: 1, maxWidth: "62ch" }}>
          In this order; what is empty is left out. The markets of an edition are chosen when it is written.
        </Typography>
        <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(190px, 1fr))", gap: 3, mb: 2 }}>
          {KIND_NAMES.map((kind) => (
            <Box key={kind} component="fieldset" sx={{ border: 0, m: 0, p: 0 }}>
              <Typography component="legend" variant="h3">
                {EDITION_KINDS[kind].name}
              </Typography>
              {Array.from({ length: Math.min(MOST_OF_TEMPLATE, templates[kind].length + 2) }, (_, i) => (
                <NativeSelect
                  key={`${i} ${templates[kind].join()}`}
                  name={`${kind}.block`}
                  defaultValue={templates[kind][i] ?? ""}
                  fullWidth
                  inputProps={{ "aria-label": `${EDITION_KINDS[kind].name}, block ${i + 1}` }}
                >
                  <option value="" aria-label="nothing" />
                  {TEMPLATE_BLOCKS.map((block) => (
                    <option key={block} value={block}>
                      {BLOCK_NAMES[block]}
                    </option>
                  ))}
                </NativeSelect>
              ))}
            </Box>
          ))}
        </Box>
        <Button type="submit" variant="contained">
          Decide so
        </Button>
      </Form>
    </Page>
  );
}
