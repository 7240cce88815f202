import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { flushSync } from "react-dom";
import { useMemo, useRef, useState } from "react";
import { BINDS, isLine, sayPrice, type Price, type PriceOf } from "#core/conditions/price";
import { priceText } from "#core/marks/wording";
import { bindsLeftBy } from "#core/written/binds";
import { isBind, isFollowed, type WrittenPrice } from "#core/written/written";
import { parseNumber } from "../../../parts/numbers.ts";
import { toTick } from "#core/series/tick";
import { fieldOf, useBuilder, type Builder } from "./builder.ts";
import { TypedField } from "./TypedField.tsx";

interface Option {
  label: string;
  price: WrittenPrice;
}

interface Props {
  path: string;
  label: string;
  /** What it is called where its label does not say it alone. */
  name?: string;
  /** Steps whose prices it may be bound to: those before it. */
  steps: number;
  optional?: boolean;
  /** Where it stands: what conditions look for, what is done, or what is aimed for. */
  of: PriceOf;
}

/** Options shown at once: the nearest first, the rest by typing. */
const SHOWN = 40;

/** A price: typed, or taken from what the charts show, or from what a step will leave. */
export function PriceField({ path, label, name, steps, optional = false, of }: Props) {
  const builder = useBuilder();
  const { draft, change, problemAt } = builder;
  const price = fieldOf(draft, path) as WrittenPrice | undefined;
  const options = useMemo(() => optionsOf(builder, steps, of), [builder, steps, of]);
  const problem = problemAt(path);
  const shown = textOf(price, builder);
  const [typed, setTyped] = useState<string>();
  /** What was typed and meant nothing: the field says again what stands, and this beside it. */
  const [refused, setRefused] = useState<string>();
  const frame = useRef<HTMLDivElement>(null);
  /** Words that were entered mean the first thing they are found in; words that were only left there mean nothing. */
  const take = (text: string, entered = false) => {
    setTyped(undefined);
    setRefused(undefined);
    if (text.trim() === shown) return;
    if (text.trim() === "") return change(path, optional ? undefined : null);
    const value = parseNumber(text);
    const reward = of === "target" ? /^\s*(\S+)\s*R\s*$/i.exec(text) : null;
    if (reward && parseNumber(reward[1]) > 0) return change(path, { r: parseNumber(reward[1]) });
    if (!Number.isNaN(value)) return change(path, value);
    const [first] = entered ? filtered(options, { inputValue: text }) : [];
    if (first) return change(path, first.price);
    setRefused(`\u201c${text.trim()}\u201d was not taken: it is no price and names nothing here.`);
  };
  return (
    <Box
      ref={frame}
      tabIndex={-1}
      onKeyDown={({ key }) => {
        // What was entered is said: keys are commands again, and Tab goes on from here.
        if (key === "Enter") frame.current?.focus();
        if (key === "Escape") flushSync(() => setTyped(undefined));
      }}
      sx={{ display: "flex", gap: 0.75, outline: "none", "& > :first-of-type": { flex: 1, minWidth: 0 } }}
    >
      <Autocomplete<Option, false, true, true>
        freeSolo
        disableClearable
        autoHighlight={false}
        clearOnBlur
        options={options}
        filterOptions={filtered}
        value={shown}
        inputValue={typed ?? shown}
        onInputChange={(_event, text, reason) => {
          if (reason !== "input") return setTyped(undefined);
          setTyped(text);
          setRefused(undefined);
        }}
        getOptionLabel={(option) => (typeof option === "string" ? option : option.label)}
        onChange={(_event, chosen) => {
          if (typeof chosen === "string") return take(chosen, true);
          setRefused(undefined);
          change(path, chosen.price);
        }}
        renderInput={(params) => (
          <TextField
            {...params}
            label={label}
            error={refused !== undefined || problem?.severity === "fault"}
            helperText={refused ?? problem?.sentence ?? followedText(price, builder)}
            title={shown}
            slotProps={{
              ...params.slotProps,
              htmlInput: { ...params.slotProps.htmlInput, ...(name ? { "aria-label": name } : {}) },
            }}
            onBlur={(event) => take((event.target as HTMLInputElement).value)}
          />
        )}
      />
      {isBind(price) && (
        <Beside label="Ticks" value={price.ticks ?? 0} whole onCommit={(ticks) => change(path, { ...price, ticks })} />
      )}
      {isBind(price) && price.bind === "midOfLeg" && (
        <Beside label="Share" value={price.ratio ?? 0.5} onCommit={(ratio) => change(path, { ...price, ratio })} />
      )}
    </Box>
  );
}

/** A small number beside a bound price. */
function Beside(props: { label: string; value: number; whole?: true; onCommit(value: number): void }) {
  const { label, value, whole, onCommit } = props;
  return (
    <TypedField
      label={label}
      shown={String(value)}
      sx={{ width: 52 }}
      onTake={(text) => {
        const typed = parseNumber(text);
        if (Number.isFinite(typed) && (!whole || Number.isInteger(typed)) && typed !== value) onCommit(typed);
      }}
    />
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
  if (isBind(price)) return `known with step ${price.step}`;
  if (!isFollowed(price)) return "";
  const isIt = (one: unknown) => isFollowed(one) && one.follows === price.follows && one.part === price.part;
  const of = subjects.find((one) => [one.price, one.band, one.low, one.high].some(isIt));
  return of ? `follows ${of.name}` : "its mark is gone, dead or hidden; the price stands";
}

function optionsOf({ subjects, draft, market, rungs }: Builder, steps: number, of: PriceOf): Option[] {
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
  const before = (of: readonly string[], sides: readonly ("low" | "high")[]) =>
    of.flatMap((rung) =>
      sides.map((side): Option => {
        const price = { previous: rung, of: side };
        return { label: sayPrice(price, market), price };
      }),
    );
  const ruled: Option[] =
    of === "target"
      ? [
          ...[1, 2, 3].map((r) => ({ label: `${r} R`, price: { r } })),
          // Where a trade goes to: a long to a high, a short to a low.
          ...(steps > 0 ? before(["P1D", "P1W", "P1M"], [draft.terms.direction === "long" ? "high" : "low"]) : []),
        ]
      : of === "condition"
        ? before(rungs, ["low", "high"])
        : [];
  return unique([...bound.reverse(), ...(of === "target" ? ruled : []), ...known, ...(of === "target" ? [] : ruled)]);
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
