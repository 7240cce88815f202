import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { Life, Mark } from "#core/marks/kind";
import type { PatternProps, PatternState } from "#core/marks/pattern";
import { PATTERN_FAMILIES, patternTitle, PATTERN_NAMES, PATTERNS, type PatternName } from "#core/patterns/registry";
import { boundsText, valueText } from "#core/patterns/ruleText";
import type { PatternShape } from "#core/patterns/shape";
import { Part, Row } from "../counting/Row.tsx";

interface Props {
  mark: Mark<PatternProps>;
  life: Life<PatternState> | undefined;
  locked: boolean;
  onChange(mark: Mark<PatternProps>): void;
}

const shapeOf = (name: PatternName): PatternShape => PATTERNS[name];

/** What a pattern is taken for, and its rules with their numbers. */
export function PatternFacts({ mark, life, locked, onChange }: Props) {
  const { pattern, way } = mark.props;
  const { isEither, source } = shapeOf(pattern);
  const set = (props: Partial<PatternProps>) => onChange({ ...mark, props: { ...mark.props, ...props } });
  const rules = life?.state.rules ?? [];
  const broken = rules.filter(({ holds }) => !holds).length;
  return (
    <>
      <Box sx={{ display: "grid", gap: 1, mt: 1 }}>
        <TextField
          select
          label="Pattern"
          disabled={locked}
          value={pattern}
          onChange={({ target }) => set({ pattern: target.value as PatternName })}
        >
          {PATTERN_NAMES.filter((name) => shapeOf(name).points.length === mark.anchors.length).map((name) => (
            <MenuItem key={name} value={name}>
              {PATTERN_FAMILIES[name]}
            </MenuItem>
          ))}
        </TextField>
        {!isEither && (
          <TextField
            select
            label="Points"
            disabled={locked}
            value={way}
            onChange={({ target }) => set({ way: target.value as PatternProps["way"] })}
          >
            <MenuItem value="up">up: {patternTitle(pattern, 1)}</MenuItem>
            <MenuItem value="down">down: {patternTitle(pattern, -1)}</MenuItem>
          </TextField>
        )}
      </Box>
      {rules.length > 0 && (
        <Part
          title={broken > 0 ? `Rules: ${broken} of ${rules.length} broken` : `Rules: ${rules.length} hold`}
          open={broken > 0}
        >
          {rules.map((line) => (
            <Row
              key={line.rule}
              dim={line.holds}
              left={line.rule}
              right={`${line.holds ? "" : "\u00d7 "}${valueText(line.value)} (${boundsText(line)})`}
            />
          ))}
          <Typography variant="caption" component="p" color="text.secondary">
            {source}.
          </Typography>
        </Part>
      )}
    </>
  );
}
