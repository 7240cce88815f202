import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { FilePicker } from "./FilePicker.tsx";

/** How a desk without a market begins: three steps in working order, the first of them with its button. */
export function FirstSteps() {
  return (
    <Box component="ol" aria-label="How to begin" sx={{ listStyle: "none", p: 0, m: 0, mt: 2, maxWidth: 640 }}>
      <Step name="Bring bars" action={<FilePicker />}>
        A CSV file with a header: date or time, open, high, low, close. What is recognised in it is shown before
        anything is stored; one file makes a market, later ones extend it.
      </Step>
      <Step name="Descend" action={later("Descent")}>
        From the highest rung to the trigger: mark what matters, answer what the machine offers, and write a scenario
        with the price that proves it wrong.
      </Step>
      <Step
        name="Publish"
        action={
          <Button component={Link} to="/editions">
            Begin an outlook
          </Button>
        }
      >
        An outlook is frozen, signed and followed bar by bar. Readers are let in on the People page.
      </Step>
    </Box>
  );
}

/** A place that opens with the first market. */
function later(name: string) {
  return (
    <Button disabled title="It opens with the first market">
      {name}
    </Button>
  );
}

function Step({ name, action, children }: { name: string; action: ReactNode; children: ReactNode }) {
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: { sm: "1fr 190px" },
        columnGap: 3,
        rowGap: 1,
        py: 1.75,
        borderTop: 1,
        borderColor: "divider",
      }}
    >
      <Box>
        <Typography variant="h3">{name}</Typography>
        <Typography variant="body2">{children}</Typography>
      </Box>
      <Box sx={{ display: "flex", flexDirection: "column", gap: 0.5, alignItems: "flex-start" }}>{action}</Box>
    </Box>
  );
}
