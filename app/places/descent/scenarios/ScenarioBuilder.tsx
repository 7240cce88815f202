import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useMemo, useRef, useState } from "react";
import { checkWritten } from "#core/written/check";
import { valuesOf } from "#core/written/followMarks";
import { renewed } from "#core/written/ground";
import { mirrored } from "#core/written/mirrored";
import { absoluteTerms, relativeTerms } from "#core/written/relative";
import { sayWritten } from "#core/written/say";
import type { Written } from "#core/written/written";
import { rungText } from "#core/marks/wording";
import { toTick } from "#core/series/tick";
import { focusChart } from "../../../parts/focusChart.ts";
import { fromInput, toInput } from "../../../parts/inputTimes.ts";
import { parseNumber } from "../../../parts/numbers.ts";
import { utcText } from "../../../parts/times.ts";
import { useSession, useSessionState, useWorkspace } from "../session/context.ts";
import { AroundLines } from "./AroundLines.tsx";
import { BuilderContext, withField, type Builder } from "./builder.ts";
import { Checklist } from "./Checklist.tsx";
import { Conditions } from "./Conditions.tsx";
import { Figures } from "./Figures.tsx";
import { Line, OrderFields } from "./OrderFields.tsx";
import { PriceField } from "./PriceField.tsx";
import { ReadyMade } from "./ReadyMade.tsx";
import { SetFields } from "./SetFields.tsx";
import { TypedField } from "./TypedField.tsx";
import type { Building, StoredScenarioOnPage } from "./Scenarios.tsx";
import { useAccount } from "./useAccount.tsx";
import { useGround } from "./useGround.ts";
import { useOwnSentences } from "./useOwnSentences.ts";
import { filledWith, useSaveScenario } from "./useSaveScenario.ts";
import { useScenarioFacts } from "./useScenarioFacts.ts";

const RuleHistory = lazy(async () => ({ default: (await import("./RuleHistory.tsx")).RuleHistory }));

interface Props {
  building: Building;
  /** The other scenarios of the market. */
  others: readonly Written[];
  onSaved(...stored: StoredScenarioOnPage[]): void;
  onRemoved(id: string): void;
  onClose(): void;
}

/** A scenario, a sentence at a time; its words, its figures and what speaks against it follow as it is written. */
export function ScenarioBuilder({ building, others, onSaved, onRemoved, onClose }: Props) {
  const session = useSession();
  const selected = useSessionState((state) => state.selected);
  const work = useWorkspace();
  const { desk, rung, rungSet, now, markets } = work;
  const { market } = desk;
  const ground = useGround(work);
  const [tried, setTried] = useState(building.stored !== undefined);
  const [pastOpen, setPastOpen] = useState(false);
  const { account, risk } = useAccount();
  const sentences = useOwnSentences();
  // What follows a mark says what the mark says now.
  const { written: draft, lost } = useMemo(
    () => renewed(building.draft, valuesOf(ground.lifeOf, market)),
    [building.draft, ground.lifeOf, market],
  );
  const replace = (next: Written) => session.set({ building: { ...building, draft: next } });
  const write = (next: Partial<Written>) => replace({ ...draft, ...next });
  const problems = useMemo(
    () => checkWritten(draft, { market, now, markets: markets.map(({ id }) => id) }),
    [draft, market, now, markets],
  );
  const faults = problems.filter(({ severity }) => severity === "fault");
  const saving = useSaveScenario(building, draft, { onSaved, onRemoved });
  const facts = useScenarioFacts(draft, work, ground, risk);
  const builder: Builder = {
    draft,
    market,
    rung,
    finer: ground.ready.finer,
    rungs: rungSet.rungs.map((one) => one.rung),
    close: ground.ready.close,
    subjects: ground.subjects,
    markets: markets.filter(({ id }) => id !== market.id),
    problemAt(path) {
      const isLost = lost.some((one) => one.path === path || one.path.startsWith(`${path}.`));
      const found = problems.find((one) => one.path === path && (tried || one.sentence !== "A price is missing here."));
      return (
        found ??
        (isLost
          ? { path, severity: "warning", sentence: "Its mark is gone or dead; what it last said stands." }
          : undefined)
      );
    },
    change: (path, value) => replace(withField(draft, path, value)),
    write,
    replace,
  };
  const title = useRef<HTMLInputElement>(null);
  /** The list of sentences goes when one is taken: keys go on where the sentence begins. */
  const begun = (take: () => void) => {
    title.current?.focus();
    take();
  };
  const save = () => {
    setTried(true);
    void saving.save(faults[0]?.sentence);
  };
  const empty = draft.terms.if.length === 0 && draft.title === "";
  const chosen = ground.subjects.find(({ mark }) => mark !== undefined && mark === selected[0]);
  const steps = draft.terms.if.length;
  return (
    <BuilderContext value={builder}>
      <Box
        component="form"
        aria-label="Scenario"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
        onKeyDown={(event) => {
          if (event.key === "Escape" && event.target instanceof HTMLInputElement) focusChart();
          if (event.key !== "Enter") return;
          // Enter takes what was typed; with Ctrl it saves.
          if (event.ctrlKey) save();
          if (event.target instanceof HTMLInputElement) {
            event.preventDefault();
            if (event.target.role !== "combobox") takeTyped(event.target);
          }
        }}
        noValidate
      >
        <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) 88px", gap: 1 }}>
          <TextField
            label="Scenario"
            value={draft.title}
            inputRef={title}
            error={tried && draft.title.trim() === ""}
            onChange={({ target: { value } }) => write({ title: value })}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 80 } }}
          />
          <TextField
            select
            label="Direction"
            value={draft.terms.direction}
            onChange={({ target: { value } }) => {
              if (value === draft.terms.direction) return;
              const onGrid = (price: number) => toTick(price, market.tick, market.decimals);
              write({ terms: mirrored(draft.terms, ground.ready.close, onGrid) });
            }}
          >
            <MenuItem value="long">long</MenuItem>
            <MenuItem value="short">short</MenuItem>
          </TextField>
        </Box>
        {empty && (
          <ReadyMade
            ground={ground.ready}
            own={sentences.own}
            onTake={(found) => begun(() => session.set({ building: filledWith({ ...building, draft }, found) }))}
            onTakeOwn={({ name, terms }) => {
              const { close, atr } = ground.ready;
              const onGrid = (price: number) => toTick(price, market.tick, market.decimals);
              const own = { ...absoluteTerms(terms, { close, atr }, onGrid), expires: draft.terms.expires };
              begun(() => write({ title: name, terms: own }));
            }}
            onDrop={sentences.drop}
          />
        )}
        <Box sx={{ mt: 1.25 }}>
          <Conditions path="while" word="While" label="What must hold" ask="what must hold" chosen={chosen} />
          <Conditions path="if" word="If" label="Steps" ask="what must come first" chosen={chosen} />
          <Conditions path="unless" word="Unless" label="What must not come" ask="what must not come" chosen={chosen} />
          <OrderFields />
          <Line word="Wrong">
            <PriceField
              of="order"
              path="wrong"
              name={draft.terms.direction === "long" ? "Wrong below" : "Wrong above"}
              label={draft.terms.direction === "long" ? "Below" : "Above"}
              steps={steps}
            />
          </Line>
          <Line word="Lapses">
            <TextField
              type="datetime-local"
              label="At (UTC)"
              value={toInput(Date.parse(draft.terms.expires), "utc")}
              onChange={({ target: { value } }) => {
                const time = fromInput(value, "utc");
                if (Number.isFinite(time)) builder.change("expires", new Date(time).toISOString());
              }}
              error={builder.problemAt("expires") !== undefined}
              helperText={builder.problemAt("expires")?.sentence}
              slotProps={{ inputLabel: { shrink: true } }}
            />
            <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
              <TypedField
                label="Not below (R)"
                shown={draft.terms.leastReward === undefined ? "" : String(draft.terms.leastReward)}
                onTake={(text) => {
                  const least = text === "" ? undefined : parseNumber(text);
                  if (least === undefined || least >= 0) builder.change("leastReward", least);
                }}
              />
              <TextField
                select
                label="Stop follows"
                value={draft.terms.trail?.rung ?? ""}
                onChange={({ target: { value } }) =>
                  builder.change("trail", value === "" ? null : { by: "structure", rung: value })
                }
                slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
              >
                <MenuItem value="">nothing</MenuItem>
                {builder.rungs.map((one) => (
                  <MenuItem key={one} value={one}>
                    {rungText(one)} structure
                  </MenuItem>
                ))}
              </TextField>
            </Box>
          </Line>
        </Box>
        <Typography
          variant="body2"
          sx={{ mt: 1, borderTop: "1.5px solid", borderColor: "text.primary", pt: 1 }}
          aria-label="In words"
        >
          {sayWritten(draft, market, utcText)}
        </Typography>
        {facts && (
          <>
            <Figures figures={facts.figures} market={market} />
            <AroundLines around={facts.around} market={market} atr={ground.ready.atr} />
            {account}
            <Checklist lines={facts.lines} />
          </>
        )}
        <SetFields others={others} />
        <TextField
          label="Premise"
          multiline
          maxRows={4}
          value={draft.premise}
          onChange={({ target: { value } }) => write({ premise: value })}
          sx={{ mt: 1.25 }}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 1000 } }}
        />
        {saving.trouble && (
          <Typography variant="body2" role="alert" sx={{ fontWeight: 600, mt: 1 }}>
            {saving.trouble}
          </Typography>
        )}
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.5 }}>
          <Button type="submit" variant="contained">
            Save scenario
          </Button>
          <Button variant="text" onClick={onClose}>
            Close
          </Button>
          {building.stored && (
            <Button variant="text" onClick={() => void saving.remove()}>
              Remove
            </Button>
          )}
          <Button
            variant="text"
            disabled={!facts || ground.ready.atr === 0}
            onClick={() => void sentences.keep(draft.title || "A sentence", relativeTerms(draft.terms, ground.ready))}
          >
            Keep as a sentence
          </Button>
          <Button
            variant="text"
            disabled={!facts || draft.terms.orders.length > 1}
            onClick={() => setPastOpen(!pastOpen)}
            aria-expanded={pastOpen}
          >
            Over the past
          </Button>
        </Box>
        {sentences.said && (
          <Typography variant="body2" role="status" sx={{ mt: 0.5 }}>
            {sentences.said}
          </Typography>
        )}
        {pastOpen && (
          <Suspense>
            <RuleHistory draft={draft} />
          </Suspense>
        )}
      </Box>
    </BuilderContext>
  );
}

/** A field that takes what is typed when it is left takes it now, and keeps the focus. */
function takeTyped(input: HTMLInputElement): void {
  input.blur();
  input.focus();
}
