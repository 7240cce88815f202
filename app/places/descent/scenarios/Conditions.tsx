import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from "@dnd-kit/sortable";
import Box from "@mui/material/Box";
import { useState } from "react";
import type { Subject } from "#core/written/subject";
import type { WrittenCondition, WrittenStep } from "#core/written/written";
import { AddCondition } from "./AddCondition.tsx";
import { fieldOf, useBuilder } from "./builder.ts";
import { hasGap } from "./conditionFields.ts";
import { ConditionRow } from "./ConditionRow.tsx";
import { moveStep } from "./moveStep.ts";

interface Props {
  /** "while", "if", "unless", or the own steps of an order: "orders[1].if". */
  path: string;
  word: string;
  label: string;
  /** What is asked for while there is none. */
  ask: string;
  /** Steps that come before these. */
  before?: number;
  chosen: Subject | undefined;
}

/** The conditions of one part of the sentence: in their order, which is changed by dragging or by keys. */
export function Conditions({ path, word, label, ask, before = 0, chosen }: Props) {
  const { draft, change, write } = useBuilder();
  const [open, setOpen] = useState<number>();
  const isSteps = path.endsWith("if");
  const list = fieldOf(draft, path) as (WrittenStep | WrittenCondition)[];
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = list.map((_, i) => `${path} ${i}`);
  return (
    <>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          const [from, to] = [ids.indexOf(String(active.id)), ids.indexOf(String(over?.id))];
          if (from < 0 || to < 0 || from === to) return;
          setOpen(undefined);
          write({ terms: moveStep(draft.terms, path, from, to) });
        }}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <Box component="ol" aria-label={label} sx={{ listStyle: "none", p: 0, m: 0 }}>
            {list.map((_, i) => (
              <ConditionRow
                key={ids[i]}
                id={ids[i]}
                path={isSteps ? `${path}[${i}].when` : `${path}[${i}]`}
                within={isSteps ? `${path}[${i}].within` : undefined}
                word={i === 0 ? word : isSteps ? "then" : "and"}
                steps={before + (isSteps ? i : 0)}
                open={open === i}
                movable={list.length > 1}
                onOpen={() => setOpen(open === i ? undefined : i)}
                onRemove={() => {
                  setOpen(undefined);
                  change(
                    path,
                    list.filter((_one, n) => n !== i),
                  );
                }}
              />
            ))}
          </Box>
        </SortableContext>
      </DndContext>
      <AddCondition
        label={list.length === 0 ? `${word} ... (${ask})` : `${isSteps ? "then" : "and"} ...`}
        as={isSteps ? "steps" : "guard"}
        chosen={chosen}
        onAdd={(steps) => {
          const added = isSteps ? steps : steps.map(({ when }) => when);
          change(path, [...list, ...added]);
          setOpen(hasGap(steps[0].when) ? list.length : undefined);
        }}
      />
    </>
  );
}
