import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useMemo, useRef, useState } from "react";
import { guardOffers, stepOffers } from "#core/written/offers";
import type { Subject } from "#core/written/subject";
import type { WrittenStep } from "#core/written/written";
import { useBuilder } from "./builder.ts";
import { FORMS } from "./conditionFields.ts";

/** What can be put in: something on the charts, whose steps are then offered, or a kind of condition. */
type Option = { name: string; subject: Subject } | { name: string; on: string };

interface Props {
  label: string;
  /** Steps come one after another, guards hold or must not come. */
  as: "steps" | "guard";
  /** What is chosen on the chart. */
  chosen: Subject | undefined;
  onAdd(steps: WrittenStep[]): void;
}

/**
 * Something on the charts is typed or chosen, then what price does there: each with one key. Or a condition of its own
 * is begun.
 */
export function AddCondition({ label, as, chosen, onAdd }: Props) {
  const builder = useBuilder();
  const { subjects, rung } = builder;
  const [picked, setPicked] = useState<Subject>();
  const subject = picked ?? chosen;
  const [typed, setTyped] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const options = useMemo(
    (): Option[] => [
      ...subjects.map((one) => ({ name: one.name, subject: one })),
      ...FORMS.map(({ on, title }) => ({ name: title, on })),
    ],
    [subjects],
  );
  const offers = subject
    ? as === "steps"
      ? stepOffers(subject, builder)
      : guardOffers(subject, builder).map(({ name, condition }) => ({ name, steps: [{ when: condition }] }))
    : [];
  const add = (steps: WrittenStep[]) => {
    setPicked(undefined);
    setTyped("");
    // Where the next one is typed, unless what was added has something to be filled in first.
    input.current?.focus();
    onAdd(steps);
  };
  return (
    <Box sx={{ pl: "64px", mb: 0.5 }}>
      <Autocomplete<Option>
        options={options}
        value={null}
        inputValue={typed}
        autoHighlight
        onInputChange={(_event, value, reason) => reason !== "reset" && setTyped(value)}
        getOptionLabel={({ name }) => name}
        getOptionKey={(option) => ("on" in option ? option.on : `${option.subject.mark ?? ""} ${option.name}`)}
        onChange={(_event, option) => {
          if (!option) return;
          setTyped("");
          if ("subject" in option) return setPicked(option.subject);
          const form = FORMS.find(({ on }) => on === option.on);
          if (form) add([{ when: form.blank(rung) }]);
        }}
        renderInput={(params) => (
          <TextField
            {...params}
            placeholder={label}
            inputRef={input}
            slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, "aria-label": label } }}
          />
        )}
      />
      {subject && (
        <Offers
          key={subject.name}
          name={subject.name}
          focused={picked !== undefined}
          offers={offers.map(({ name }) => name)}
          onTake={(i) => add(offers[i].steps)}
        />
      )}
    </Box>
  );
}

/** What price may do there, numbered: the number, pressed while one of them has the focus, takes it. */
function Offers({
  name,
  offers,
  focused,
  onTake,
}: {
  name: string;
  offers: string[];
  focused: boolean;
  onTake(i: number): void;
}) {
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (focused) first.current?.focus();
  }, [focused]);
  return (
    <Box
      role="group"
      aria-label={name}
      onKeyDown={(event) => {
        const i = Number(event.key) - 1;
        if (Number.isInteger(i) && i >= 0 && i < offers.length) {
          event.preventDefault();
          event.stopPropagation();
          onTake(i);
        }
      }}
      sx={{ mt: 0.5 }}
    >
      <Typography variant="caption" component="p" color="text.secondary">
        {name}
      </Typography>
      {offers.map((offer, i) => (
        <Box
          key={offer}
          component={ButtonBase}
          disableRipple
          ref={i === 0 ? first : undefined}
          onClick={() => onTake(i)}
          sx={{
            display: "flex",
            gap: 1,
            justifyContent: "flex-start",
            width: "100%",
            minHeight: 24,
            font: "inherit",
            fontSize: "0.875rem",
          }}
        >
          <Box component="kbd" sx={{ font: "inherit", fontWeight: 600, width: 12 }}>
            {i + 1}
          </Box>
          {offer}
        </Box>
      ))}
    </Box>
  );
}
