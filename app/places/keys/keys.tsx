import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Page } from "../../parts/Page.tsx";
import { chooseKeys, COMMANDS, keyOf, keyText, meet, pressed, useKeyChoice } from "../../parts/keys.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/keys.ts";

export const meta: Route.MetaFunction = () => [{ title: "Keys - Even Compass" }];

/** Keys of the chart itself, which do what the arrow keys of any view do and cannot be changed. */
const FIXED: [string, string][] = [
  ["Arrow left, arrow right", "Pan; with Shift half a view. While placing: move the crosshair by bars"],
  [
    "Arrow up, arrow down",
    "Move the selected marks by a tick; with Shift by ten. While placing: from price to price of the bar",
  ],
  ["Alt with arrow left, arrow right", "Move the selected marks by a bar; with Shift by ten"],
  ["Enter", "Open what can be placed or done at the crosshair. While placing: set the anchor there"],
  ["Shift with a click, or a box drawn", "Select one more mark, or all in the box"],
  ["+ and \u2212", "Zoom"],
  ["[ and ]", "More or less room for prices; 0 fits them again"],
  ["Home, End", "To the first bar that is loaded, to the last one"],
];

/** Every key there is; each can be changed, and single keys can be switched off. */
export default function Keys() {
  const choice = useKeyChoice();
  const [waiting, setWaiting] = useState<string>();
  const [trouble, setTrouble] = useState("");
  const change = (id: string, key: string) => {
    setWaiting(undefined);
    const where = COMMANDS.find((command) => command.id === id)?.where ?? "Everywhere";
    const other = COMMANDS.find(
      (command) => command.id !== id && meet(command.where, where) && keyOf(command.id, choice) === key,
    );
    if (other) return setTrouble(`${keyText(key)} is taken by "${other.name}". Nothing was changed.`);
    setTrouble("");
    chooseKeys({ ...choice, changed: { ...choice.changed, [id]: key } });
  };
  return (
    <Page>
      <PageTitle
        aside={
          <Button
            onClick={() => chooseKeys({ changed: {}, off: false })}
            disabled={Object.keys(choice.changed).length === 0 && !choice.off}
          >
            As they were at first
          </Button>
        }
      >
        Keys
      </PageTitle>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={!choice.off}
            onChange={(event) => chooseKeys({ ...choice, off: !event.target.checked })}
          />
        }
        label="Listen to single letters and signs, outside text fields"
        sx={{ mb: 1 }}
      />
      <Typography role="alert" sx={{ fontWeight: 600, minHeight: 24 }}>
        {trouble}
      </Typography>
      <Table size="small" aria-label="Keys">
        <TableHead>
          <TableRow>
            <TableCell>What it does</TableCell>
            <TableCell>Where</TableCell>
            <TableCell>Key</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {COMMANDS.map(({ id, name, where }) => (
            <TableRow key={id}>
              <TableCell>{name}</TableCell>
              <TableCell>{where}</TableCell>
              <TableCell>
                <Button
                  variant="text"
                  aria-label={`Key for: ${name}`}
                  onClick={() => setWaiting(id)}
                  onBlur={() => setWaiting(undefined)}
                  onKeyDown={(event) => {
                    if (waiting !== id || ["Control", "Shift", "Alt", "Meta", "Tab"].includes(event.key)) return;
                    event.preventDefault();
                    event.stopPropagation();
                    change(id, pressed(event));
                  }}
                >
                  {waiting === id ? "press a key ..." : keyText(keyOf(id, choice)) || "none"}
                </Button>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        On the chart
      </Typography>
      <Box component="dl" sx={{ display: "grid", gridTemplateColumns: "220px 1fr", rowGap: 0.75, m: 0 }}>
        {FIXED.map(([keys, does]) => (
          <Box key={keys} sx={{ display: "contents" }}>
            <Typography component="dt" variant="body2" sx={{ fontWeight: 600 }}>
              {keys}
            </Typography>
            <Typography component="dd" variant="body2" sx={{ m: 0 }}>
              {does}
            </Typography>
          </Box>
        ))}
      </Box>
    </Page>
  );
}
