import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import DragIndicator from "@mui/icons-material/DragIndicator";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Typography from "@mui/material/Typography";
import { useEffect, useRef } from "react";
import { ConditionFault } from "#core/conditions/fields";
import { conditionOf, readTerms } from "#core/conditions/registry";
import { contractOf } from "#core/written/ground";
import type { WrittenCondition } from "#core/written/written";
import { parseNumber } from "../../../parts/numbers.ts";
import { fieldOf, useBuilder } from "./builder.ts";
import { ConditionFields } from "./ConditionFields.tsx";
import { formOf, hasGap } from "./conditionFields.ts";
import { TypedField } from "./TypedField.tsx";

interface Props {
  /** Tells it from the others while they are moved. */
  id: string;
  path: string;
  word: string;
  steps: number;
  open: boolean;
  /** Where it can be given bars to come in. */
  within: string | undefined;
  movable: boolean;
  onOpen(): void;
  onRemove(): void;
}

/** One condition of a scenario: in words, and opened to be filled in. */
export function ConditionRow({ id, path, word, steps, open, within, movable, onOpen, onRemove }: Props) {
  const { draft, market, change, problemAt } = useBuilder();
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id, disabled: !movable });
  const condition = fieldOf(draft, path) as WrittenCondition;
  const said = saidOf(condition, market);
  const problem = problemAt(path);
  // What is still to be filled in is where the next key goes.
  const gap = hasGap(condition);
  const filling = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (open && gap)
      [...(filling.current?.querySelectorAll<HTMLInputElement>("input:not([aria-hidden])") ?? [])]
        .find(({ value }) => value === "")
        ?.focus();
    // Once, when it is opened: what is filled in later moves nothing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [open]);
  const bars = within === undefined ? undefined : (fieldOf(draft, within) as number | undefined);
  return (
    <Box
      component="li"
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      sx={{ bgcolor: "background.paper", py: 0.25 }}
    >
      <Box
        sx={{ display: "grid", gridTemplateColumns: "56px minmax(0, 1fr) 24px", columnGap: 0.75, alignItems: "start" }}
      >
        <Typography component="span" sx={{ fontSize: "0.85rem", fontWeight: 600, pt: "3px" }}>
          {word}
        </Typography>
        <Box
          component={ButtonBase}
          disableRipple
          aria-expanded={open}
          onClick={onOpen}
          sx={{
            font: "inherit",
            fontSize: "0.9rem",
            lineHeight: 1.35,
            textAlign: "left",
            justifyContent: "flex-start",
            py: "3px",
          }}
        >
          {said}
          {bars === undefined ? "" : `, within ${bars} bars`}
        </Box>
        {movable ? (
          <Box
            component="button"
            type="button"
            {...attributes}
            {...listeners}
            aria-label={`Move ${word.toLowerCase()} ${said}`}
            sx={{ border: 0, p: 0, bgcolor: "transparent", color: "text.secondary", cursor: "grab", minHeight: 24 }}
          >
            <DragIndicator sx={{ fontSize: 18 }} />
          </Box>
        ) : (
          <span />
        )}
      </Box>
      {problem && (
        <Typography variant="caption" component="p" role="alert" sx={{ fontWeight: 600, pl: "64px" }}>
          {problem.sentence}
        </Typography>
      )}
      {open && (
        <Box ref={filling} sx={{ pl: "10px", ml: "4px", borderLeft: "2px solid", borderColor: "text.primary", mb: 1 }}>
          <ConditionFields path={path} steps={steps} />
          <Box sx={{ display: "flex", alignItems: "end", gap: 1, mt: 0.5 }}>
            {within !== undefined && (
              <TypedField
                label="Within bars (any)"
                shown={bars === undefined ? "" : String(bars)}
                sx={{ maxWidth: 150 }}
                onTake={(text) => {
                  const number = text === "" ? undefined : parseNumber(text);
                  if (number === undefined || Number.isInteger(number)) change(within, number);
                }}
              />
            )}
            <Button variant="text" onClick={onRemove}>
              Take it out
            </Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** A condition as it is read aloud; while a price is missing, what kind of thing it is. */
function saidOf(condition: WrittenCondition, market: { decimals: number }): string {
  try {
    const [plain] = contractOf({ while: [condition], orders: [], if: [] } as never).while as [WrittenCondition];
    const terms = readTerms(plain, "when");
    return conditionOf(terms).say(terms, market);
  } catch (error) {
    if (!(error instanceof ConditionFault)) throw error;
    return `${formOf(condition.on)?.title ?? condition.on} ...`;
  }
}
