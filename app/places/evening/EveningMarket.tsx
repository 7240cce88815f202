import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import MuiLink from "@mui/material/Link";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useRef, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { dismissalOf, markOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import type { Verdict } from "#core/round/verdict";
import { bandText, countText, priceText, rungText } from "#core/marks/wording";
import type { PlanArea } from "#core/round/dayPlan";
import type { Evening } from "../../../server/round/evening.ts";
import { fetchDesk, type MarketDesk } from "../descent/marks/desks.ts";

export interface MorningRemark {
  verdict: Verdict;
  remark: string;
}

interface Props {
  account: string;
  evening: Evening;
  remark: MorningRemark | undefined;
  onRemark(said: MorningRemark): void;
}

/** What an evening's item came to. */
type Answer = "taken" | "dismissed" | "struck";

/** Marks that stand, shown before all are asked for. */
const STANDING = 5;

/** One market's evening; every answer is a step on its marks like any other, and can be undone in the Descent. */
export function EveningMarket({ account, evening, remark, onRemark }: Props) {
  const { market, price, died, formed, moreFormed, stands } = evening;
  const [all, setAll] = useState(false);
  const [answers, setAnswers] = useState<ReadonlyMap<string, Answer>>(new Map());
  const [trouble, setTrouble] = useState("");
  const desk = useRef<Promise<MarketDesk>>(undefined);
  const change = async (keys: readonly string[], answer: Answer, work: (desk: MarketDesk) => void) => {
    try {
      // The market's marks are had once something is answered.
      desk.current ??= fetchDesk(account, market.id);
      work(await desk.current);
      setAnswers((before) => new Map([...before, ...keys.map((key) => [key, answer] as const)]));
      setTrouble("");
    } catch {
      desk.current = undefined;
      setTrouble("The server does not answer: nothing was changed. Try again.");
    }
  };
  const take = (facts: readonly Found[]) =>
    change(
      facts.map(({ key }) => key),
      "taken",
      ({ store }) => store.set(...facts.map((fact) => markOf(fact, market.id, crypto.randomUUID()))),
    );
  const dismiss = (facts: readonly Found[]) =>
    change(
      facts.map(({ key }) => key),
      "dismissed",
      ({ store }) => store.set(...facts.map((fact) => dismissalOf(fact, market.id, crypto.randomUUID()))),
    );
  const strike = (ids: readonly string[]) =>
    change(ids, "struck", ({ store }) => {
      store.remove(...ids);
    });
  const factsIn = ({ lines }: PlanArea) => lines.flatMap(({ fact }) => fact ?? []);
  const openFacts = formed.flatMap(factsIn).filter(({ key }) => !answers.has(key));
  const deadLeft = died.filter(({ id }) => !answers.has(id)).map(({ id }) => id);
  if (price === undefined) return null;
  const quiet = died.length + formed.length + stands.length === 0;
  return (
    <Box component="section" aria-label={market.name} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1.5, flexWrap: "wrap" }}>
        <Typography variant="h3">
          <MuiLink component={Link} to={`/descent/${market.id}`} underline="hover">
            {market.name}
          </MuiLink>
        </Typography>
        <span>{priceText(price, market)}</span>
        {quiet && (
          <Typography variant="body2" color="text.secondary">
            Nothing died, nothing formed, nothing stands.
          </Typography>
        )}
        <Box sx={{ flex: 1 }} />
        {deadLeft.length > 1 && (
          <Button variant="text" sx={{ minHeight: 24, py: 0 }} onClick={() => void strike(deadLeft)}>
            Strike all {deadLeft.length} dead
          </Button>
        )}
        {openFacts.length > 1 && (
          <Button variant="text" sx={{ minHeight: 24, py: 0 }} onClick={() => void take(openFacts)}>
            Take all {openFacts.length} that formed
          </Button>
        )}
      </Box>
      <Part title="Died">
        {died.map(({ id, rung, says, end }) => (
          <Item
            key={id}
            rungs={[rung]}
            answer={answers.get(id)}
            actions={[["Strike", () => void strike([id])]]}
            link={{ to: `/descent/${market.id}?rung=${rung}`, name: "Draw anew" }}
          >
            {says} {end?.sentence}
          </Item>
        ))}
      </Part>
      <Part title="Formed">
        {formed.map((area) => (
          <Item
            key={area.key}
            rungs={area.rungs}
            answer={answers.get(area.key)}
            actions={[
              ["Take", () => void take(factsIn(area))],
              ["Not this", () => void dismiss(factsIn(area))],
            ]}
          >
            {bandText(area, market)} {[...new Set(area.lines.map(({ name }) => name))].join("; ")}
          </Item>
        ))}
      </Part>
      {moreFormed > 0 && (
        <Typography variant="caption" color="text.secondary" component="p" sx={{ pl: "72px" }}>
          {countText(moreFormed, "more area")}, further away: on its{" "}
          <MuiLink component={Link} to={`/round/${market.id}/plan`}>
            day plan
          </MuiLink>
        </Typography>
      )}
      <Part title="Stands">
        {stands.slice(0, all ? stands.length : STANDING).map(({ id, rung, says }) => (
          <Item key={id} rungs={[rung]} answer={answers.get(id)} actions={[["Strike", () => void strike([id])]]}>
            {says}
          </Item>
        ))}
      </Part>
      {stands.length > STANDING && (
        <Button variant="text" sx={{ minHeight: 24, py: 0, ml: "64px" }} onClick={() => setAll(!all)}>
          {all ? "Fewer" : `${stands.length - STANDING} more that stand`}
        </Button>
      )}
      {trouble && <Typography role="alert">{trouble}</Typography>}
      <Box sx={{ display: "grid", gridTemplateColumns: "110px minmax(0, 1fr)", gap: 1.5, mt: 0.5, maxWidth: 720 }}>
        <TextField
          select
          label="In the morning"
          value={remark?.verdict ?? "watch"}
          onChange={(event) =>
            onRemark({ verdict: event.target.value as Verdict, remark: remark?.remark ?? evening.remark })
          }
        >
          <MenuItem value="nothing">nothing</MenuItem>
          <MenuItem value="watch">watch</MenuItem>
          <MenuItem value="plan">plan</MenuItem>
        </TextField>
        <TextField
          label="A word for the morning"
          value={remark?.remark ?? evening.remark}
          onChange={(event) =>
            onRemark({ verdict: remark?.verdict ?? "watch", remark: event.target.value.slice(0, 500) })
          }
        />
      </Box>
    </Box>
  );
}

function Part({ title, children }: { title: string; children: ReactNode[] }) {
  if (children.length === 0) return null;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "64px minmax(0, 1fr)", columnGap: 1 }}>
      <Typography variant="body2" color="text.secondary">
        {title}
      </Typography>
      <Box component="ul" aria-label={title} sx={{ listStyle: "none", p: 0, m: 0 }}>
        {children}
      </Box>
    </Box>
  );
}

interface ItemProps {
  rungs: readonly string[];
  answer: Answer | undefined;
  actions: [string, () => void][];
  link?: { to: string; name: string };
  children: ReactNode;
}

function Item({ rungs, answer, actions, link, children }: ItemProps) {
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        gap: 1,
        alignItems: "baseline",
        fontSize: "0.9rem",
        color: answer ? "text.secondary" : "text.primary",
        textDecoration: answer === "struck" || answer === "dismissed" ? "line-through" : "none",
      }}
    >
      <span style={{ flex: 1 }}>
        {rungs.map(rungText).join(", ")}: {children}
      </span>
      {answer ? (
        <span>{answer}</span>
      ) : (
        <>
          {actions.map(([name, run]) => (
            <Button key={name} variant="text" sx={{ py: 0, px: 0.5, minHeight: 24 }} onClick={run}>
              {name}
            </Button>
          ))}
          {link && (
            <MuiLink component={Link} to={link.to} sx={{ fontSize: "0.85rem", minHeight: 24 }}>
              {link.name}
            </MuiLink>
          )}
        </>
      )}
    </Box>
  );
}
