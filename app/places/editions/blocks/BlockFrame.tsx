import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import DragIndicator from "@mui/icons-material/DragIndicator";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

interface Props {
  id: string;
  name: string;
  children: ReactNode;
  onMove(by: -1 | 1): void;
  onTakeOut(): void;
}

/** A block in its place: dragged by its handle, or moved with Alt and the arrows while that has the focus. */
export function BlockFrame({ id, name, children, onMove, onTakeOut }: Props) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition } = useSortable({ id });
  return (
    <Box
      component="section"
      aria-label={name}
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      sx={{ borderTop: "1.5px solid", borderColor: "text.primary", mt: 2.5, pt: 1, bgcolor: "background.default" }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {name}
        </Typography>
        <IconButton
          ref={setActivatorNodeRef}
          size="small"
          {...attributes}
          {...listeners}
          onKeyDown={(event) => {
            if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
              event.preventDefault();
              return onMove(event.key === "ArrowUp" ? -1 : 1);
            }
            (listeners?.onKeyDown as ((event: unknown) => void) | undefined)?.(event);
          }}
          aria-keyshortcuts="Alt+ArrowUp Alt+ArrowDown"
          aria-label={`Move ${name}`}
          sx={{ cursor: "grab", touchAction: "none" }}
        >
          <DragIndicator fontSize="small" />
        </IconButton>
        <Button variant="text" onClick={onTakeOut} aria-label={`Take out ${name}`}>
          Take out
        </Button>
      </Box>
      {children}
    </Box>
  );
}
