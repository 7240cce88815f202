import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import { Fragment } from "react";
import type { MarketFacts } from "#core/marks/kind";
import { type DeadStatement, labelAt } from "#core/marks/count";
import type { CountNode } from "#core/marks/countNode";
import { priceText } from "#core/marks/wording";
import { PATTERNS } from "#core/waves/patterns";
import type { Counted } from "./useCounts.ts";

interface Props {
  mark: Counted;
  market: MarketFacts;
  /** The wave that is worked on: [] is the root. */
  chosen: readonly number[];
  died: readonly DeadStatement[];
  broken: ReadonlySet<string>;
  onChoose(at: readonly number[]): void;
}

/** The waves of a count from the root down, each with where it runs from and to; a click chooses one. */
export function WaveTree(props: Props) {
  const { mark } = props;
  const { root, degree } = mark.props;
  return (
    <Box role="group" aria-label="Waves" sx={{ mt: 0.5 }}>
      <WaveRow {...props} at={[]} name={`${degree} ${PATTERNS[root.pattern].title}`} says={progressText(root)} />
      <Inside {...props} node={root} at={[]} />
    </Box>
  );
}

function Inside({ node, at, ...props }: Props & { node: CountNode; at: readonly number[] }) {
  const { mark, market } = props;
  return node.pivots.slice(0, PATTERNS[node.pattern].labels.length).map((from, i) => {
    const inner = node.inner[i];
    const to = node.pivots[i + 1];
    const path = [...at, i];
    const price = (pivot: number) => priceText(mark.anchors[pivot].price, market);
    return (
      <Fragment key={i}>
        <WaveRow
          {...props}
          at={path}
          name={
            `${labelAt(mark.props, PATTERNS[node.pattern].labels[i], at.length)} ` +
            `${inner ? PATTERNS[inner.pattern].title : ""}`
          }
          says={`${price(from)} to ${to === undefined ? "... running" : price(to)}`}
        />
        {inner && <Inside {...props} node={inner} at={path} />}
      </Fragment>
    );
  });
}

function WaveRow({
  at,
  name,
  says,
  chosen,
  died,
  broken,
  onChoose,
}: Omit<Props, "mark" | "market"> & { at: readonly number[]; name: string; says: string }) {
  const on = chosen.join() === at.join();
  const cross = broken.has(at.join()) || died.some((one) => one.at.join() === at.join());
  return (
    <Box
      component={ButtonBase}
      disableRipple
      aria-pressed={on}
      onClick={() => onChoose(at)}
      sx={{
        display: "flex",
        justifyContent: "space-between",
        gap: 1,
        width: "100%",
        minHeight: 24,
        borderLeft: "3px solid",
        borderLeftColor: on ? "text.primary" : "transparent",
        py: 0.25,
        pr: 0,
        pl: 0.5 + at.length * 1.25,
        font: "inherit",
        fontSize: "0.82rem",
        textAlign: "left",
        color: "text.primary",
        bgcolor: on ? "background.default" : "transparent",
      }}
    >
      <Box component="span" sx={({ vars }) => ({ color: vars?.palette.compass.plum, fontWeight: 600 })}>
        {name}
        {cross && " \u00d7"}
      </Box>
      <Box component="span" sx={{ whiteSpace: "nowrap", color: "text.secondary" }}>
        {says}
      </Box>
    </Box>
  );
}

function progressText({ pattern, pivots }: CountNode): string {
  const { labels } = PATTERNS[pattern];
  return pivots.length > labels.length ? "complete" : `wave ${labels[pivots.length - 1]} in progress`;
}
