import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import NativeSelect from "@mui/material/NativeSelect";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";

interface Props {
  /** Markets of the outlook, in the order of their pictures. */
  markets: readonly string[];
  plans: readonly { id: string; name: string }[];
  shares: readonly { id: string; section: number; plan: string }[];
  /** Address of the picture that was just shared. */
  address: string | undefined;
}

/** For those at the desk: a picture of the outlook gets an address for anybody. */
export function ShareForm({ markets, plans, shares, address }: Props) {
  if (markets.length === 0) return null;
  return (
    <Box component="details" data-no-print sx={{ mt: 1 }} open={address !== undefined || undefined}>
      <Typography component="summary" variant="body2" sx={{ cursor: "pointer" }}>
        Share a picture with anybody
      </Typography>
      {address && (
        <Typography sx={{ my: 1, fontFamily: "monospace", fontSize: "0.85rem", overflowWrap: "anywhere" }}>
          {address}
          <br />
          {`<img src="${address}/picture.png" alt="Chart">`}
        </Typography>
      )}
      <Form method="post">
        <NativeSelect name="section" inputProps={{ "aria-label": "Picture of" }}>
          {markets.map((name, i) => (
            <option key={i} value={i}>
              {name}
            </option>
          ))}
        </NativeSelect>{" "}
        <NativeSelect name="plan" inputProps={{ "aria-label": "As it is seen on" }} defaultValue={plans.at(-1)?.id}>
          {plans.map(({ id, name }) => (
            <option key={id} value={id}>
              as {name} sees it
            </option>
          ))}
        </NativeSelect>{" "}
        <Button type="submit" name="step" value="share" variant="outlined">
          Share it
        </Button>
      </Form>
      {shares.map(({ id, section, plan }) => (
        <Form method="post" key={id}>
          <input type="hidden" name="share" value={id} />
          {markets.at(section)}, as {plans.find((one) => one.id === plan)?.name ?? "a plan that is gone"} sees it{" "}
          <Button type="submit" name="step" value="end share" variant="text" aria-label={`End ${id.slice(0, 6)}`}>
            End it
          </Button>
        </Form>
      ))}
    </Box>
  );
}
