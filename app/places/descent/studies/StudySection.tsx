import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useState, type KeyboardEvent } from "react";
import type { ChosenStudy } from "#core/studies/chosen";
import { MOST_STUDIES, PANEL } from "#core/studies/limits";
import { usualOf } from "#core/studies/params";
import { studyName } from "#core/studies/reading";
import { studyOf } from "#core/studies/registry";
import type { Study, StudyParams } from "#core/studies/study";
import { focusChart } from "../../../parts/focusChart.ts";
import type { Studies } from "./useStudies.ts";
import { LookFields } from "./LookFields.tsx";

/** Loaded when they are first wanted. */
const AddStudy = lazy(async () => ({ default: (await import("./AddStudy.tsx")).AddStudy }));
const StudyForm = lazy(async () => ({ default: (await import("./StudyForm.tsx")).StudyForm }));

interface Props {
  studies: Studies;
  /** The rungs of the set, longest first, and the one that is shown. */
  rungs: readonly string[];
  rung: string;
  markets: readonly { id: string; name: string }[];
  market: string;
  /** What the studies on the chart read, by their place in the list. */
  says(chosen: ChosenStudy): string;
  /** Where an anchored study begins that nobody has said a beginning of. */
  anchor: number;
  /** Counts the wishes to add one. */
  adding: boolean;
  onAdding(adding: boolean): void;
}

/** The studies on the charts: found by their name, changed, moved and removed here, by keys alone where one likes. */
export function StudySection({ studies, rungs, rung, markets, market, says, anchor, adding, onAdding }: Props) {
  const { chosen, change, remove } = studies;
  const [open, setOpen] = useState<number>();
  const leave = () => {
    onAdding(false);
    focusChart();
  };
  const add = (study: Study) => {
    const params = beginningOf(study, { anchor, other: markets.find(({ id }) => id !== market)?.id });
    change([...chosen, { study: study.name, params, rungs: [], height: PANEL.usual }]);
    onAdding(false);
    setOpen(chosen.length);
  };
  const onKey = (event: KeyboardEvent, i: number) => {
    if (event.key === "Delete" || event.key === "Backspace") {
      event.preventDefault();
      event.stopPropagation();
      setOpen(undefined);
      remove(i);
    }
    const way = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
    if (way === 0) return;
    event.preventDefault();
    if (!event.altKey) return focusLine(event.currentTarget, way);
    if (chosen[i + way]) change(chosen.toSpliced(i, 1).toSpliced(i + way, 0, chosen[i]));
    setOpen(open === i ? i + way : open);
    // The line that was moved keeps the keys.
    focusLine(event.currentTarget, way);
  };
  return (
    <Box component="section" aria-labelledby="studies" sx={{ mt: 2, borderTop: 1, borderColor: "divider", pt: 1 }}>
      <Box sx={{ display: "flex", alignItems: "baseline" }}>
        <Typography variant="h3" component="h2" id="studies" sx={{ flex: 1 }}>
          Studies
        </Typography>
        <Button
          variant="text"
          disabled={chosen.length >= MOST_STUDIES}
          onClick={() => onAdding(true)}
          title="Put a study on the charts (;)"
          sx={{ p: 0, px: 0.75, minHeight: 24 }}
        >
          Add
        </Button>
      </Box>
      {adding && (
        <Suspense>
          <AddStudy onAdd={add} onLeave={leave} onBlur={() => onAdding(false)} />
        </Suspense>
      )}
      {chosen.length === 0 && !adding && (
        <Typography variant="body2" color="text.secondary">
          None is on the charts. Press ; and type its name.
        </Typography>
      )}
      <Box component="ul" aria-label="Studies on the charts" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {chosen.map((one, i) => {
          const study = studyOf(one.study);
          if (!study) return null;
          const here = !one.hidden && (one.rungs.length === 0 || one.rungs.includes(rung));
          return (
            <li key={i}>
              <Box
                component={ButtonBase}
                disableRipple
                data-line
                aria-expanded={open === i}
                onClick={() => setOpen(open === i ? undefined : i)}
                onKeyDown={(event: KeyboardEvent) => onKey(event, i)}
                sx={{
                  ...{ display: "block", width: "100%", textAlign: "left", font: "inherit", fontSize: "0.9rem" },
                  ...{ lineHeight: 1.35, p: 0.5, color: here ? "text.primary" : "text.disabled" },
                  bgcolor: open === i ? "background.default" : "transparent",
                }}
              >
                <Box component="span" sx={{ fontWeight: 600 }}>
                  {studyName(study, one.params)}
                </Box>{" "}
                {one.hidden ? "(hidden)" : here ? says(one) : "(not on this rung)"}
              </Box>
              {open === i && (
                <Suspense>
                  <StudyForm
                    chosen={one}
                    study={study}
                    rungs={rungs}
                    markets={markets.filter(({ id }) => id !== market)}
                    onChange={(next) => change(chosen.map((other, n) => (n === i ? next : other)))}
                    onRemove={() => {
                      setOpen(undefined);
                      remove(i);
                    }}
                    onDone={focusChart}
                  />
                </Suspense>
              )}
            </li>
          );
        })}
      </Box>
      {studies.taken && (
        <Typography variant="body2" role="status" sx={{ mt: 0.5 }}>
          {studyName(studyOf(studies.taken.study)!, studies.taken.params)} was taken off the charts.{" "}
          <Button variant="text" sx={{ p: 0, minHeight: 24 }} onClick={studies.putBack}>
            Put it back
          </Button>
        </Typography>
      )}
      {studies.said && (
        <Typography variant="body2" role="status" sx={{ mt: 0.5 }}>
          {studies.said}
        </Typography>
      )}
      <LookFields studies={studies} />
    </Box>
  );
}

/** Parameters a study begins with on a chart. */
function beginningOf(
  { parameters }: Study,
  { anchor, other }: { anchor: number; other: string | undefined },
): StudyParams {
  return Object.fromEntries(
    parameters.map((parameter) => {
      const usual = usualOf(parameter) ?? (parameter.kind === "time" ? anchor : (other ?? ""));
      return [parameter.name, usual];
    }),
  );
}

function focusLine(line: Element, way: number): void {
  const lines = [...(line.closest("ul")?.querySelectorAll<HTMLElement>("[data-line]") ?? [])];
  lines[lines.indexOf(line as HTMLElement) + way]?.focus();
}
