import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { priceText } from "#core/marks/wording";
import { separableOf, separates, setOf, setProblem } from "#core/written/sets";
import { RANKS, ROLES, type Rank, type ScenarioRole, type Written } from "#core/written/written";
import { parseNumber } from "../../../parts/numbers.ts";
import { useBuilder } from "./builder.ts";
import { TypedField } from "./TypedField.tsx";

/** How a scenario stands among the others of its market: preferred or alternate, how likely, what tells them apart. */
export function SetFields({ others }: { others: readonly Written[] }) {
  const { draft, market, write, replace } = useBuilder();
  const { neither } = setOf([...others, draft]);
  const problem = setProblem([...others, draft]);
  const told = others.flatMap((other) => {
    const price = separates(separableOf(draft), separableOf(other));
    return price === undefined ? [] : [`${priceText(price, market)} tells it from "${other.title}".`];
  });
  return (
    <Box component="section" aria-label="Its place among the scenarios" sx={{ mt: 1.5 }}>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 64px", gap: 1 }}>
        <TextField
          select
          label="Stands as"
          value={draft.role}
          onChange={({ target: { value } }) => write({ role: value as ScenarioRole })}
        >
          {ROLES.map((role) => (
            <MenuItem key={role} value={role}>
              {role}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Rank"
          value={draft.rank}
          onChange={({ target: { value } }) => write({ rank: value as Rank })}
        >
          {RANKS.map((rank) => (
            <MenuItem key={rank} value={rank}>
              {rank}
            </MenuItem>
          ))}
        </TextField>
        <TypedField
          label="Weight %"
          shown={String(draft.weight)}
          onTake={(text) => {
            const weight = Math.round(parseNumber(text));
            if (weight >= 0 && weight <= 100) write({ weight });
          }}
        />
      </Box>
      {others.length > 0 && (
        <TextField
          select
          label="Either-or with"
          value={draft.pair ?? ""}
          onChange={({ target: { value } }) => {
            const { pair: _, ...rest } = draft;
            replace(value === "" ? rest : { ...rest, pair: value });
          }}
          sx={{ mt: 1 }}
        >
          <MenuItem value="">none</MenuItem>
          {others.map(({ id, title }) => (
            <MenuItem key={id} value={id}>
              {title}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }} role={problem ? "alert" : undefined}>
        {problem ?? `Neither of them: ${neither} %.`} {told.join(" ")}
      </Typography>
    </Box>
  );
}
