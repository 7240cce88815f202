import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useMemo } from "react";
import { BINDS, isLine, sayPrice, type Price } from "#core/conditions/price";
import { priceText } from "#core/marks/wording";
import { bindsLeftBy } from "#core/written/binds";
import { isBind, isFollowed, type WrittenPrice } from "#core/written/written";
import { parseNumber } from "../../../parts/numbers.ts";
import { toTick } from "../../../../chart/snap.ts";
import { fieldOf, useBuilder, type Builder } from "./builder.ts";

interface Option {
  label: string;
  price: WrittenPrice;
}

interface Props {
  path: string;
  label: string;
  /** Steps whose prices it may be bound to: those before it. */
  steps: number;
  optional?: boolean;
}

/** Options shown at once: the nearest first, the rest by typing. */
const SHOWN = 40;

/** A price: typed, or taken from what the charts show, or from what a step will leave. */
export function PriceField({ path, label, steps, optional = false }: Props) {
  const builder = useBuilder();
  const { draft, change, problemAt } = builder;
  const price = fieldOf(draft, path) as WrittenPrice | undefined;
  const options = useMemo(() => optionsOf(builder, steps), [builder, steps]);
  const problem = problemAt(path);
  const shown = textOf(price, builder);
  const take = (typed: string) => {
    if (typed.trim() === shown) return;
    if (typed.trim() === "") return change(path, optional ? undefined : null);
    const value = parseNumber(typed);
    if (!Number.isNaN(value)) change(path, value);
  };
  return (
    <Box
      sx={{ display: "grid", gridTemplateColumns: isBind(price) ? "minmax(0, 1fr) 52px" : "minmax(0, 1fr)", gap: 0.75 }}
    >
      <Autocomplete<Option, false, true, true>
        freeSolo
        disableClearable
        autoHighlight={false}
        options={options}
        filterOptions={filtered}
        value={shown}
        getOptionLabel={(option) => (typeof option === "string" ? option : option.label)}
        onChange={(_event, chosen) => (typeof chosen === "string" ? take(chosen) : change(path, chosen.price))}
        renderInput={(params) => (
          <TextField
            {...params}
            label={label}
            error={problem?.severity === "fault"}
            helperText={problem?.sentence ?? followedText(price, builder)}
            onBlur={(event) => take((event.target as HTMLInputElement).value)}
          />
        )}
      />
      {isBind(price) && (
        <TextField
          label="Ticks"
          defaultValue={price.ticks ?? 0}
          onBlur={(event) => {
            const ticks = parseNumber(event.target.value);
            if (Number.isInteger(ticks)) change(path, { ...price, ticks });
          }}
          slotProps={{ htmlInput: { inputMode: "numeric", maxLength: 5, style: { textAlign: "right" } } }}
        />
      )}
    </Box>
  );
}

function filtered(options: Option[], { inputValue }: { inputValue: string }): Option[] {
  const words = inputValue.toLowerCase().split(/\s+/).filter(Boolean);
  const isNumber = !Number.isNaN(parseNumber(inputValue));
  // A number that is typed, or that stands, means itself: what is near it is no more wanted than anything else.
  const found = isNumber
    ? options
    : options.filter(({ label }) => words.every((word) => label.toLowerCase().includes(word)));
  return (found.length > 0 ? found : isNumber ? options : []).slice(0, SHOWN);
}

function textOf(price: WrittenPrice | undefined, { market, draft }: Builder): string {
  if (price === undefined || price === null) return "";
  const plain = (isFollowed(price) ? price.value : price) as Price;
  if (typeof plain === "object" && isLine(plain)) return "along the line";
  return sayPrice(plain, market, draft.terms.direction === "long" ? 1 : -1);
}

function followedText(price: WrittenPrice | undefined, { subjects }: Builder): string {
  if (!isFollowed(price)) return "";
  const of = subjects.find(({ mark }) => mark === price.follows);
  return of ? `follows ${of.name}` : "its mark is gone, dead or hidden; the price stands";
}

function optionsOf({ subjects, draft, market }: Builder, steps: number): Option[] {
  const bound = [...draft.terms.if, ...draft.terms.orders[0].if].slice(0, steps).flatMap(({ when }, i) =>
    bindsLeftBy(when).map((bind): Option => ({
      label: `${BINDS[bind]}, step ${i + 1}`,
      price: { bind, step: i + 1, ticks: 0 },
    })),
  );
  const known = subjects.flatMap(({ name, band, low, high, price, bottom, top }): Option[] =>
    band && low !== undefined && high !== undefined
      ? [
          { label: `${name}: high edge ${priceText(top, market)}`, price: onGrid(high, market) },
          { label: `${name}: low edge ${priceText(bottom, market)}`, price: onGrid(low, market) },
        ]
      : [{ label: name, price: onGrid(price, market) }],
  );
  return unique([...bound.reverse(), ...known]);
}

/** Prices of areas are put on the grid as they are taken; those of marks are what the mark says. */
function onGrid(price: WrittenPrice, { tick, decimals }: { tick: number; decimals: number }): WrittenPrice {
  return typeof price === "number" ? toTick(price, tick, decimals) : price;
}

function unique(options: Option[]): Option[] {
  const seen = new Map<string, Option>();
  for (const option of options) if (!seen.has(option.label)) seen.set(option.label, option);
  return [...seen.values()];
}
