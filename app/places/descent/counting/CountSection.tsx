import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { checkedWaves, type CountState } from "#core/marks/count";
import { type CountProps, ROLES } from "#core/marks/countProps";
import { nodeAt } from "#core/marks/countTree";
import type { Life, MarketFacts } from "#core/marks/kind";
import type { Series } from "#core/series/series";
import { DEGREES } from "#core/waves/degrees";
import { NumberField } from "../../../parts/NumberField.tsx";
import { dateText } from "../../../parts/times.ts";
import { useKeepScenarios } from "../scenarios/useKeepScenarios.ts";
import { CountFacts } from "./CountFacts.tsx";
import type { Counted, Counts } from "./useCounts.ts";
import { NotationFields } from "./NotationFields.tsx";
import { WaveActions } from "./WaveActions.tsx";
import { WaveTree } from "./WaveTree.tsx";

interface Props {
  mark: Counted;
  life: Life | undefined;
  market: MarketFacts;
  series: Series | undefined;
  atr: number;
  zone: string;
  intraday: boolean;
  counts: Counts;
  /** Other live counts of the market: what is left when this one dies. */
  others: readonly { mark: Counted; dead: boolean; says: string }[];
  onSelect(id: string): void;
}

/** A count in full: how it is taken, its waves, what ends it, its rules, guidelines and targets, and its alternates. */
export function CountSection({ mark, life, market, series, atr, zone, intraday, counts, others, onSelect }: Props) {
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [said, setSaid] = useState<string>();
  const { props, locked = false } = mark;
  const at = chosen.length === 0 || nodeAt(mark, chosen.slice(0, -1)) ? chosen : [];
  const state = life?.state as CountState | undefined;
  const set = (change: Partial<CountProps>) => counts.change({ ...mark, props: { ...props, ...change } });
  const broken = new Set(
    checkedWaves(mark).flatMap((one) => (one.rules.some(({ holds }) => !holds) ? [one.at.join()] : [])),
  );
  const dead = state?.died.find((one) => one.at.length === 0);
  const living = others.filter((one) => !one.dead);
  const choice = <K extends keyof CountProps>(
    label: string,
    key: K,
    options: readonly (readonly [CountProps[K], string])[],
  ) => (
    <TextField
      select
      label={label}
      disabled={locked}
      value={props[key]}
      onChange={(event) => set({ [key]: event.target.value })}
    >
      {options.map(([value, name]) => (
        <MenuItem key={String(value)} value={String(value)}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
  const keepScenarios = useKeepScenarios();
  const makeSet = async () =>
    setSaid(
      await keepScenarios(
        counts.toSet([mark, ...living.map((one) => one.mark)].filter(({ props: { role } }) => role !== "archived")),
      ),
    );
  const button = { px: 0.75, py: 0, minWidth: 0, minHeight: 24 };
  return (
    <Box sx={{ mt: 1 }}>
      {dead && (
        <Typography variant="body2" role="status" sx={{ fontWeight: 600 }}>
          {"\u00d7"} Dead since {dateText(dead.time)}: {dead.statement}.{living.length > 0 ? " Still alive:" : ""}
        </Typography>
      )}
      {dead &&
        living.map((one) => (
          <Box key={one.mark.id} sx={{ display: "flex", justifyContent: "space-between", gap: 1 }}>
            <Button variant="text" sx={{ ...button, textAlign: "left" }} onClick={() => onSelect(one.mark.id)}>
              {one.says}
            </Button>
            <Button variant="text" sx={button} onClick={() => counts.promote(one.mark)}>
              Promote
            </Button>
          </Box>
        ))}
      <Box sx={{ display: "flex", flexWrap: "wrap", ml: -0.75 }}>
        <Button variant="text" sx={button} title="7" onClick={() => counts.fork(mark)}>
          Fork
        </Button>
        <Button
          variant="text"
          sx={button}
          title="8"
          disabled={props.role === "preferred"}
          onClick={() => counts.promote(mark)}
        >
          Promote
        </Button>
        <Button
          variant="text"
          sx={button}
          onClick={() => set({ role: props.role === "archived" ? "alternate" : "archived" })}
        >
          {props.role === "archived" ? "Take out of the archive" : "Archive"}
        </Button>
        <Button variant="text" sx={button} title="9" onClick={() => setSaid(counts.toScenario(mark))}>
          Make a scenario
        </Button>
        {living.length > 0 && !dead && (
          <Button variant="text" sx={button} onClick={() => void makeSet()}>
            Make the set
          </Button>
        )}
      </Box>
      {said && (
        <Typography variant="body2" role="status">
          {said}
        </Typography>
      )}
      <WaveTree mark={mark} market={market} chosen={at} died={state?.died ?? []} broken={broken} onChoose={setChosen} />
      <WaveActions key={at.join()} mark={mark} at={at} counts={counts} />
      <CountFacts mark={mark} state={state} market={market} series={series} atr={atr} zone={zone} intraday={intraday} />
      <Box component="details" sx={{ borderTop: 1, borderColor: "divider", mt: 0.75, pt: 0.5 }}>
        <Typography component="summary" variant="body2" sx={{ cursor: "pointer", fontWeight: 600 }}>
          How it is taken
        </Typography>
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", alignItems: "start", gap: 1.25, mt: 1 }}>
          {choice(
            "Degree",
            "degree",
            DEGREES.map((name) => [name, name] as const),
          )}
          {choice("Lengths", "scale", [
            ["arithmetic", "arithmetic"],
            ["log", "logarithmic"],
          ])}
          {choice("Ended by", "basis", [
            ["wick", "a wick"],
            ["close", "a close"],
          ])}
          {choice(
            "Stands as",
            "role",
            ROLES.map((name) => [name, name] as const),
          )}
          <NumberField
            label="Weight, %"
            value={props.weight}
            decimals={0}
            disabled={locked}
            problem={(value) => (value < 0 || value > 100 ? "From 0 to 100." : undefined)}
            onCommit={(weight) => set({ weight })}
          />
          <NumberField
            label="4 may enter 1 by, %"
            value={props.overlap * 100}
            decimals={0}
            disabled={locked}
            problem={(value) => (value < 0 || value > 50 ? "From 0 to 50." : undefined)}
            onCommit={(value) => set({ overlap: value / 100 })}
          />
          <NumberField
            label="Degrees drawn"
            value={props.shown}
            decimals={0}
            disabled={locked}
            problem={(value) =>
              Number.isInteger(value) && value >= 1 && value <= DEGREES.length
                ? undefined
                : `A whole number from 1 to ${DEGREES.length}.`
            }
            onCommit={(shown) => set({ shown })}
          />
          <NotationFields props={props} disabled={locked} onChange={(notation) => set({ notation })} />
        </Box>
      </Box>
    </Box>
  );
}
