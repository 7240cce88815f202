import Divider from "@mui/material/Divider";
import ListItemText from "@mui/material/ListItemText";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Typography from "@mui/material/Typography";
import { keyOf, keyText, useKeyChoice } from "../../../parts/keys.ts";

export interface MenuChoice {
  name: string;
  /** Command whose key is shown beside it. */
  command?: string;
  run(): void;
}

interface Props {
  /** Where it opens, in pixels of the window. */
  at: { left: number; top: number };
  /** Groups of choices, with a line between. */
  groups: readonly (readonly MenuChoice[])[];
  onClose(): void;
}

/** The palette that opens at the cursor: what can be placed there, and what can be done with the mark below it. */
export function ChartMenu({ at, groups, onClose }: Props) {
  const keys = useKeyChoice();
  return (
    <Menu
      open
      onClose={onClose}
      anchorReference="anchorPosition"
      anchorPosition={at}
      transitionDuration={0}
      slotProps={{ list: { dense: true, "aria-label": "At the cursor" } }}
    >
      {groups.flatMap((group, i) => [
        ...(i > 0 ? [<Divider key={`line ${i}`} />] : []),
        ...group.map(({ name, command, run }) => (
          <MenuItem
            key={name}
            onClick={() => {
              onClose();
              run();
            }}
          >
            <ListItemText>{name}</ListItemText>
            {command && (
              <Typography variant="body2" color="text.secondary" sx={{ pl: 3 }}>
                {keyText(keyOf(command, keys))}
              </Typography>
            )}
          </MenuItem>
        )),
      ])}
    </Menu>
  );
}
