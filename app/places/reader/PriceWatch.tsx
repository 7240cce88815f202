import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";

/** Prices of their own that a reader is told of once they are reached. */
export function PriceWatch({ waiting }: { waiting: readonly { id: string; says: string }[] }) {
  return (
    <Box component="section" aria-label="Prices you wait for" data-no-print>
      <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
        Prices you wait for
      </Typography>
      {waiting.map(({ id, says }) => (
        <Form method="post" key={id}>
          <input type="hidden" name="alert" value={id} />
          {says}{" "}
          <Button type="submit" name="step" value="take back" variant="text" aria-label={`Take back: ${says}`}>
            Take it back
          </Button>
        </Form>
      ))}
      <Box
        component={Form}
        method="post"
        key={waiting.length}
        sx={{ display: "flex", alignItems: "flex-end", gap: 2, mt: 0.5 }}
      >
        <TextField
          name="price"
          label="Tell me when price reaches"
          required
          slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 20 } }}
          sx={{ width: 200 }}
        />
        <Button type="submit" name="step" value="wait" variant="outlined">
          Tell me
        </Button>
      </Box>
    </Box>
  );
}
