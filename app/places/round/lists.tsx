import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Form, useSubmit } from "react-router";
import { SaveListDto } from "#contracts/round";
import { countText } from "#core/marks/wording";
import { listMarkets } from "../../../server/bars/markets.ts";
import { listsOf, removeList, saveList, type OwnList } from "../../../server/round/lists.ts";
import { answer, attempt, personIn, readField, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/lists.ts";

export const meta: Route.MetaFunction = () => [{ title: "Lists - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({
    lists: await listsOf(personIn(context).id),
    markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
  }));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const { id: account } = personIn(context);
    const form = await readForm(request);
    if (textField(form, "step") === "remove") await removeList(textField(form, "id"), account);
    else await saveList(readField(form, "list", SaveListDto), account);
    return {};
  });
}

const NEW: OwnList = { id: "", name: "", markets: [], rare: false };

/** Lists of markets, each walked in its own order. */
export default function Lists({ loaderData: { lists, markets }, actionData }: Route.ComponentProps) {
  const [editing, setEditing] = useState<OwnList>();
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const nameOf = (id: string) => markets.find((market) => market.id === id)?.name ?? id;
  return (
    <Page>
      <PageTitle
        aside={
          <Button variant="contained" onClick={() => setEditing(NEW)}>
            A new list
          </Button>
        }
      >
        Lists
      </PageTitle>
      <Typography sx={{ mb: 2, maxWidth: "62ch" }}>
        A round walks a list in its order. The list of all markets is always there; markets of a list that is rarely
        looked at leave it, for those that readers ask for now and then.
      </Typography>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {editing && <ListForm key={editing.id} list={editing} markets={markets} onLeave={() => setEditing(undefined)} />}
      {lists.length === 0 && !editing && (
        <Typography color="text.secondary">There is no list of your own yet.</Typography>
      )}
      {lists.map((list) => (
        <Box
          key={list.id}
          component="section"
          aria-label={list.name}
          sx={{ borderTop: 1, borderColor: "divider", py: 1.5 }}
        >
          <Box sx={{ display: "flex", alignItems: "baseline", gap: 2 }}>
            <Typography variant="h2">{list.name}</Typography>
            <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
              {countText(list.markets.length, "market")}
              {list.rare && ", rarely looked at"}
            </Typography>
            <Form method="post">
              <input type="hidden" name="id" value={list.id} />
              <Button variant="text" onClick={() => setEditing(list)}>
                Change
              </Button>
              <Button type="submit" name="step" value="remove" variant="text">
                Remove
              </Button>
            </Form>
          </Box>
          <Typography>{list.markets.map(nameOf).join(" \u00b7 ")}</Typography>
        </Box>
      ))}
    </Page>
  );
}

function ListForm({
  list,
  markets,
  onLeave,
}: {
  list: OwnList;
  markets: readonly { id: string; name: string }[];
  onLeave(): void;
}) {
  const submit = useSubmit();
  const [held, setHeld] = useState(list);
  const left = markets.filter(({ id }) => !held.markets.includes(id));
  const move = (i: number, step: number) => {
    const order = [...held.markets];
    const [one] = order.splice(i, 1);
    order.splice(i + step, 0, one);
    setHeld({ ...held, markets: order });
  };
  const save = () => {
    void submit({ step: "save", list: JSON.stringify(held) }, { method: "post" });
    onLeave();
  };
  return (
    <Box
      component="form"
      aria-label="List"
      onSubmit={(event) => (event.preventDefault(), save())}
      sx={{ borderTop: "1.5px solid", borderColor: "text.primary", py: 1.5, maxWidth: 560 }}
    >
      <TextField
        label="Name"
        value={held.name}
        onChange={(event) => setHeld({ ...held, name: event.target.value.slice(0, 60) })}
        autoFocus
      />
      <Box component="ol" sx={{ pl: 3, my: 1 }}>
        {held.markets.map((id, i) => {
          const name = markets.find((market) => market.id === id)?.name ?? id;
          return (
            <li key={id}>
              {name}
              <Button
                variant="text"
                sx={{ py: 0, minHeight: 24 }}
                disabled={i === 0}
                onClick={() => move(i, -1)}
                aria-label={`${name} earlier`}
              >
                {"\u2191"}
              </Button>
              <Button
                variant="text"
                sx={{ py: 0, minHeight: 24 }}
                disabled={i === held.markets.length - 1}
                onClick={() => move(i, 1)}
                aria-label={`${name} later`}
              >
                {"\u2193"}
              </Button>
              <Button
                variant="text"
                sx={{ py: 0, minHeight: 24 }}
                onClick={() => setHeld({ ...held, markets: held.markets.filter((one) => one !== id) })}
                aria-label={`Without ${name}`}
              >
                {"\u00d7"}
              </Button>
            </li>
          );
        })}
      </Box>
      <TextField
        select
        label="Add a market"
        value=""
        onChange={(event) => setHeld({ ...held, markets: [...held.markets, event.target.value] })}
        disabled={left.length === 0}
      >
        {left.map(({ id, name }) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ display: "flex", gap: 1, mt: 1, alignItems: "center" }}>
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={held.rare}
              onChange={(event) => setHeld({ ...held, rare: event.target.checked })}
            />
          }
          label="Rarely looked at"
          sx={{ flex: 1 }}
        />
        <Button type="submit" variant="contained" disabled={held.name.trim() === "" || held.markets.length === 0}>
          Save
        </Button>
        <Button onClick={onLeave}>Close</Button>
      </Box>
    </Box>
  );
}
