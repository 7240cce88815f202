import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { emptyOrder, type WrittenOrder } from "#core/written/written";
import { parseNumber } from "../../../parts/numbers.ts";
import { fieldOf, useBuilder } from "./builder.ts";
import { Conditions } from "./Conditions.tsx";
import { PriceField } from "./PriceField.tsx";
import { TypedField } from "./TypedField.tsx";

/** What is done once the last step is met: entry, stop and targets; and an addition, where there is one. */
export function OrderFields() {
  const { draft, write, change } = useBuilder();
  const { orders } = draft.terms;
  const addition = () => {
    const [first] = orders;
    const added: WrittenOrder = {
      ...emptyOrder(),
      targets: structuredClone(first.targets),
      risk: 0.5,
      after: { leg: 1, event: "entered" },
    };
    write({ terms: { ...draft.terms, orders: [{ ...first, risk: 0.5 }, added] } });
  };
  return (
    <>
      {orders.map((_, i) => (
        <OneOrder key={i} at={i} several={orders.length > 1} />
      ))}
      <Box sx={{ pl: "64px" }}>
        {orders.length === 1 ? (
          <Button variant="text" onClick={addition} sx={{ px: 0 }}>
            Add to it later
          </Button>
        ) : (
          <Button variant="text" onClick={() => change("orders", [{ ...orders[0], risk: 1 }])} sx={{ px: 0 }}>
            Without the addition
          </Button>
        )}
      </Box>
    </>
  );
}

function OneOrder({ at, several }: { at: number; several: boolean }) {
  const { draft, change, problemAt } = useBuilder();
  const path = `orders[${at}]`;
  const order = fieldOf(draft, path) as WrittenOrder;
  const steps = draft.terms.if.length + order.if.length;
  const { entry, targets, breakEven, risk } = order;
  const shares = problemAt(`${path}.targets`);
  const setRisk = (text: string) => {
    const share = parseNumber(text) / 100;
    if (!(share > 0 && share < 1)) return;
    const rest = (1 - share) / (draft.terms.orders.length - 1);
    change(
      "orders",
      draft.terms.orders.map((one, i) => ({ ...one, risk: i === at ? share : rest })),
    );
  };
  return (
    <Box sx={at > 0 ? { borderTop: 1, borderColor: "divider", mt: 0.75, pt: 0.75 } : {}}>
      {at > 0 && (
        <Conditions
          path={`${path}.if`}
          word="Add if"
          label="Steps of the addition"
          ask="what must come first"
          before={draft.terms.if.length}
          chosen={undefined}
        />
      )}
      <Line word={at === 0 ? "Enter" : "Add"}>
        <Box sx={{ display: "grid", gridTemplateColumns: "112px minmax(0, 1fr)", gap: 1 }}>
          <TextField
            select
            label="Order"
            value={entry.order}
            onChange={({ target: { value } }) =>
              change(`${path}.entry`, value === "market" ? { order: value } : { price: null, ...entry, order: value })
            }
          >
            <MenuItem value="market">next open</MenuItem>
            <MenuItem value="limit">limit</MenuItem>
            <MenuItem value="stop">stop</MenuItem>
          </TextField>
          <PriceField
            of="order"
            path={`${path}.entry.price`}
            label={entry.order === "market" ? "About (optional)" : "At"}
            name={entry.order === "market" ? "Enter about" : "Enter at"}
            steps={steps}
            optional={entry.order === "market"}
          />
        </Box>
        {several && (
          <Box sx={{ display: "grid", gridTemplateColumns: "112px minmax(0, 1fr)", gap: 1 }}>
            <TypedField label="% of the risk" shown={percent(risk)} onTake={setRisk} />
            {at > 0 && (
              <TextField
                select
                label="Once the first is"
                value={order.after?.event ?? "entered"}
                onChange={({ target: { value } }) => change(`${path}.after`, { leg: 1, event: value })}
              >
                <MenuItem value="entered">entered</MenuItem>
                <MenuItem value="target">at a target</MenuItem>
                <MenuItem value="stopped">stopped</MenuItem>
              </TextField>
            )}
          </Box>
        )}
      </Line>
      <Line word="Stop">
        <PriceField of="order" path={`${path}.stop`} label="At" name="Stop at" steps={steps} />
        <TextField
          select
          label="Then"
          value={breakEven === null ? "none" : "after" in breakEven ? "target" : "r"}
          onChange={({ target: { value } }) =>
            change(`${path}.breakEven`, value === "none" ? null : value === "target" ? { after: "target" } : { r: 1 })
          }
        >
          <MenuItem value="target">to the entry after the first target</MenuItem>
          <MenuItem value="r">to the entry once it is 1 R up</MenuItem>
          <MenuItem value="none">it stays</MenuItem>
        </TextField>
      </Line>
      <Line word="Take">
        {targets.map((target, i) => (
          <Box
            key={i}
            sx={{ display: "grid", gridTemplateColumns: "56px minmax(0, 1fr) 24px", gap: 1, alignItems: "start" }}
          >
            <TypedField
              label="%"
              shown={percent(target.share)}
              error={shares !== undefined}
              onTake={(text) => {
                const share = parseNumber(text) / 100;
                if (share > 0) change(`${path}.targets`, withShare(targets, i, share));
              }}
            />
            <PriceField of="target" path={`${path}.targets[${i}].price`} label={`Target ${i + 1}`} steps={steps} />
            {targets.length > 1 ? (
              <Button
                variant="text"
                sx={{ minWidth: 24, p: 0, mt: 2 }}
                aria-label={`Without target ${i + 1}`}
                onClick={() => change(`${path}.targets`, evenly(targets.filter((_one, n) => n !== i)))}
              >
                {"\u00d7"}
              </Button>
            ) : (
              <span />
            )}
          </Box>
        ))}
        {shares && (
          <Typography variant="caption" role="alert" sx={{ fontWeight: 600 }}>
            {shares.sentence}
          </Typography>
        )}
        {targets.length < 6 && (
          <Button
            variant="text"
            sx={{ px: 0 }}
            onClick={() => change(`${path}.targets`, evenly([...targets, { price: null, share: 0 }]))}
          >
            One more target
          </Button>
        )}
      </Line>
    </Box>
  );
}

const percent = (share: number) => String(Math.round(share * 1000) / 10);

const evenly = <T extends object>(targets: readonly T[]) =>
  targets.map((target) => ({ ...target, share: 1 / targets.length }));

/** One share as it was typed, the others in the proportions they had: together one, as long as that is possible. */
function withShare(targets: WrittenOrder["targets"], at: number, share: number): WrittenOrder["targets"] {
  const others = targets.reduce((sum, one, i) => sum + (i === at ? 0 : one.share), 0);
  const left = 1 - share;
  if (targets.length === 1 || left <= 0 || others <= 0)
    return targets.map((one, i) => (i === at ? { ...one, share } : one));
  return targets.map((one, i) => ({ ...one, share: i === at ? share : (one.share * left) / others }));
}

/** A part of the sentence: its word, and what stands behind it. */
export function Line({ word, children }: { word: string; children: React.ReactNode }) {
  return (
    <Box
      sx={{ display: "grid", gridTemplateColumns: "56px minmax(0, 1fr)", columnGap: 1, alignItems: "start", mb: 0.75 }}
    >
      <Typography component="span" sx={{ fontSize: "0.85rem", fontWeight: 600, pt: "18px" }}>
        {word}
      </Typography>
      <Box sx={{ display: "grid", gap: 0.75 }}>{children}</Box>
    </Box>
  );
}
