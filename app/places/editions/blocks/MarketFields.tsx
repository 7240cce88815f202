import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { MarketBlock } from "#core/edition/blocks";
import type { LevelLine } from "#core/marks/levels";
import type { MarketFacts } from "#core/marks/kind";
import { countText, rungText } from "#core/marks/wording";
import { StudiesChoice } from "./StudiesChoice.tsx";
import { LevelTable } from "../../../parts/LevelTable.tsx";

export interface MarketChoice {
  facts: MarketFacts;
  scenarios: { id: string; title: string; says: string }[];
}

interface Props {
  block: MarketBlock;
  market: MarketChoice;
  rungs: readonly string[];
  levels: readonly LevelLine[] | undefined;
  /** Address of its picture as it will be frozen; none before it is stored. */
  picture: string | undefined;
  onChange(part: Partial<MarketBlock>): void;
}

/** As many degrees as there are: nothing is left out. */
const ALL_DEGREES = 9;

/** What of a market goes into an edition: the rung of its chart, the waves on it, and the scenarios that are called. */
export function MarketFields({ block, market, rungs, levels, picture, onChange }: Props) {
  const { facts, scenarios } = market;
  const { rung, counts } = block;
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "flex-end", flexWrap: "wrap", gap: 2, mb: 1 }}>
        <TextField
          select
          label="Chart of the"
          value={rung}
          onChange={(event) => onChange({ rung: event.target.value })}
          sx={{ width: 130 }}
        >
          {[...new Set([...rungs, rung])].map((one) => (
            <MenuItem key={one} value={one}>
              {rungText(one)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Waves"
          value={counts?.degrees ?? ALL_DEGREES}
          onChange={(event) =>
            onChange({ counts: { alternates: true, ...counts, degrees: Number(event.target.value) } })
          }
          sx={{ width: 130 }}
        >
          {[1, 2, 3, ALL_DEGREES].map((degrees) => (
            <MenuItem key={degrees} value={degrees}>
              {degrees === ALL_DEGREES ? "as on the desk" : countText(degrees, "degree")}
            </MenuItem>
          ))}
        </TextField>
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={counts?.alternates ?? true}
              onChange={(event) =>
                onChange({ counts: { degrees: ALL_DEGREES, ...counts, alternates: event.target.checked } })
              }
            />
          }
          label="Alternates"
          sx={{ mr: 0 }}
        />
      </Box>
      <StudiesChoice chosen={block.studies} onChoose={(studies) => onChange({ studies })} />
      {picture && (
        <Box
          component="img"
          key={picture}
          src={picture}
          alt={`Chart of ${facts.name}, ${rungText(rung)}, as it will be frozen`}
          sx={{ width: "100%", aspectRatio: "860 / 460", border: 1, borderColor: "divider", display: "block" }}
        />
      )}
      {scenarios.length === 0 && <Typography variant="body2">No scenario is written for this market yet.</Typography>}
      {scenarios.map(({ id, title, says }) => (
        <FormControlLabel
          key={id}
          sx={{ alignItems: "flex-start", my: 0.5 }}
          control={
            <Checkbox
              size="small"
              checked={block.scenarios.includes(id)}
              onChange={({ target: { checked } }) =>
                onChange({
                  scenarios: checked ? [...block.scenarios, id] : block.scenarios.filter((one) => one !== id),
                })
              }
            />
          }
          label={
            <Typography variant="body2" sx={{ pt: 1 }}>
              <strong>{title}.</strong> {says}
            </Typography>
          }
        />
      ))}
      {levels && <LevelTable lines={levels} decimals={facts.decimals} />}
    </>
  );
}
