import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { degreeAt } from "#core/marks/count";
import type { CountProps } from "#core/marks/countProps";
import { STYLES, USUAL_NOTATION, type Notation } from "#core/waves/notation";
import { keepNotation } from "./keptNotation.ts";

interface Props {
  props: CountProps;
  disabled: boolean;
  onChange(notation: Partial<Notation>): void;
}

/** How each degree that is drawn is written; what is chosen is kept for the next counts, too. */
export function NotationFields({ props, disabled, onChange }: Props) {
  const degrees = [...new Set(Array.from({ length: props.shown }, (_, below) => degreeAt(props, below)))];
  return degrees.map((degree) => {
    const own = (props.notation ?? {})[degree] ?? USUAL_NOTATION[degree];
    const value = STYLES.findIndex(({ style }) => style.figures === own.figures && style.around === own.around);
    return (
      <TextField
        key={degree}
        select
        label={`${degree} as`}
        disabled={disabled}
        value={value}
        onChange={(event) => {
          const notation = { ...props.notation, [degree]: STYLES[Number(event.target.value)].style };
          keepNotation(notation);
          onChange(notation);
        }}
      >
        {STYLES.map(({ name }, i) => (
          <MenuItem key={name} value={i}>
            {name}
          </MenuItem>
        ))}
      </TextField>
    );
  });
}
