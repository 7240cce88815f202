import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Form, useSubmit } from "react-router";
import { SaveRungSetDto } from "#contracts/rungs";
import { rungText } from "#core/marks/wording";
import { DEFAULT_SET, type RungSet } from "#core/time/rungs";
import { chooseRungSet, removeRungSet, rungSetsOf, saveRungSet } from "../../../server/desk/rungSets.ts";
import { answer, attempt, personIn, readField, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { SetForm } from "./SetForm.tsx";
import type { Route } from "./+types/rungs.ts";

export const meta: Route.MetaFunction = () => [{ title: "Rungs - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, () => rungSetsOf(personIn(context).id));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const { id: account } = personIn(context);
    const form = await readForm(request);
    const text = (name: string) => textField(form, name);
    if (text("step") === "choose") await chooseRungSet(text("id"), account);
    else if (text("step") === "remove") await removeRungSet(text("id"), account);
    else await saveRungSet(readField(form, "set", SaveRungSetDto), account);
    return {};
  });
}

/** The analyst's sets of rungs: which timeframes, what each is for, and in which order they are walked. */
export default function Rungs({ loaderData: { chosen, sets }, actionData }: Route.ComponentProps) {
  const [editing, setEditing] = useState<RungSet>();
  const submit = useSubmit();
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const save = (set: RungSet) => {
    void submit(
      { step: "save", set: JSON.stringify({ ...set, chosen: set.id === chosen.id || set.id === "" }) },
      { method: "post" },
    );
    setEditing(undefined);
  };
  return (
    <Page>
      <PageTitle
        aside={
          <Button variant="contained" onClick={() => setEditing({ ...chosen, id: "", version: 0, name: "" })}>
            A new set
          </Button>
        }
      >
        Rungs
      </PageTitle>
      <Typography sx={{ mb: 3, maxWidth: "62ch" }}>
        A rung is one timeframe. A set names the rungs you use, says on which of them you trade, and in which order you
        walk them. Any count of minutes, hours, days, weeks, months or years will do.
      </Typography>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {editing && <SetForm key={editing.id} set={editing} onSave={save} onLeave={() => setEditing(undefined)} />}
      {sets.map((set) => (
        <SetLine key={set.id} set={set} inUse={set.id === chosen.id} onChange={() => setEditing(set)} />
      ))}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
        Rungs in bold are traded on; the others are for reading only.
      </Typography>
    </Page>
  );
}

function SetLine({ set, inUse, onChange }: { set: RungSet; inUse: boolean; onChange(): void }) {
  return (
    <Box component="section" aria-label={set.name} sx={{ borderTop: 1, borderColor: "divider", py: 2 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 2 }}>
        <Typography variant="h2">{set.name}</Typography>
        <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
          {set.walk === "down" ? "walked from high to low" : "walked from low to high"}
          {inUse && ", in use"}
        </Typography>
        <Form method="post">
          <input type="hidden" name="id" value={set.id} />
          {!inUse && (
            <Button type="submit" name="step" value="choose" variant="text">
              Use it
            </Button>
          )}
          {set.id !== DEFAULT_SET.id && (
            <>
              <Button variant="text" onClick={onChange}>
                Change
              </Button>
              <Button type="submit" name="step" value="remove" variant="text">
                Remove
              </Button>
            </>
          )}
        </Form>
      </Box>
      <Typography sx={{ mt: 0.5 }}>
        {set.rungs.map(({ rung, role }, i) => (
          <span key={rung}>
            {i > 0 && " \u00b7 "}
            {role === "tradable" ? <strong>{rungText(rung)}</strong> : rungText(rung)}
          </span>
        ))}
      </Typography>
    </Box>
  );
}
