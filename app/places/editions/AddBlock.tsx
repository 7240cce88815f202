import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import {
  BLOCK_NAMES,
  emptyBlock,
  TEMPLATE_BLOCKS,
  type Block,
  type EditionKind,
  type TemplateBlock,
} from "#core/edition/blocks";
import type { MarketChoice } from "./blocks/MarketFields.tsx";

interface Props {
  kind: EditionKind;
  markets: readonly MarketChoice[];
  onAdd(block: Block): void;
}

/** One more block: a market's section, or another one of the edition. */
export function AddBlock({ kind, markets, onAdd }: Props) {
  const [market, setMarket] = useState(markets.at(0)?.facts.id ?? "");
  const [other, setOther] = useState<TemplateBlock>("words");
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, alignItems: "flex-end", mt: 3 }}>
      {markets.length > 0 && (
        <>
          <TextField
            select
            label="Market"
            value={market}
            onChange={(event) => setMarket(event.target.value)}
            sx={{ width: 200 }}
          >
            {markets.map(({ facts }) => (
              <MenuItem key={facts.id} value={facts.id}>
                {facts.name}
              </MenuItem>
            ))}
          </TextField>
          <Button
            onClick={() => {
              const scenarios = markets.find(({ facts }) => facts.id === market)?.scenarios.map(({ id }) => id) ?? [];
              onAdd({ kind: "market", id: crypto.randomUUID(), market, rung: "P1D", scenarios });
            }}
          >
            Add its section
          </Button>
          <Button onClick={() => onAdd({ kind: "walk", id: crypto.randomUUID(), market, steps: [] })}>
            Add a walk-through
          </Button>
        </>
      )}
      <TextField
        select
        label="Block"
        value={other}
        onChange={(event) => setOther(event.target.value as typeof other)}
        sx={{ width: 180, ml: { md: 3 } }}
      >
        {TEMPLATE_BLOCKS.map((one) => (
          <MenuItem key={one} value={one}>
            {BLOCK_NAMES[one]}
          </MenuItem>
        ))}
      </TextField>
      <Button onClick={() => onAdd(emptyBlock(other, crypto.randomUUID(), kind))}>Add it</Button>
    </Box>
  );
}
