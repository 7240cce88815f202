import Box from "@mui/material/Box";
import type { Anchor, Mark } from "#core/marks/kind";
import type { View } from "../../../../chart/scale.ts";
import type { Desks } from "../marks/desks.ts";
import { Pane, type PaneView, type Shared } from "./Pane.tsx";
import type { Panes } from "./usePanes.ts";
import type { Placer } from "../marks/usePlacing.ts";

interface Props {
  panes: Panes;
  desks: Desks;
  shared: Shared;
  markets: readonly { id: string; name: string }[];
  selected: readonly string[];
  placer: Placer;
  fits: number;
  onActivate(pane: number): void;
  onSelect(ids: string[], add: boolean): void;
  onMoment(instant: number): void;
  onMenu(
    pane: number,
    what: { anchor: Anchor; instant: number; mark: string | undefined },
    at: { left: number; top: number },
  ): void;
  onDrag(mark: Mark): void;
  onDrop(marks: Mark[]): void;
  onPrice(field: string, price: number): void;
  onPanel(panel: number, height: number): void;
  /** The part of the active chart that is in view. */
  onView(view: View): void;
  onChange(pane: number, view: PaneView): void;
}

/** One chart, or up to six side by side; the first takes two places where the others would leave one empty. */
export function Charts({
  panes: { panes, active, toMarket, close },
  desks,
  shared,
  markets,
  selected,
  placer,
  fits,
  onActivate,
  onMenu,
  onView,
  onChange,
  ...handlers
}: Props) {
  const columns = panes.length === 1 ? 1 : panes.length <= 4 ? 2 : 3;
  const gap = columns > 1 && panes.length % columns !== 0;
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        display: "grid",
        gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
        gridAutoRows: "minmax(0, 1fr)",
        columnGap: "1px",
        bgcolor: "divider",
        "& > *": { bgcolor: "background.default" },
      }}
    >
      {panes.map((place, i) => {
        const desk = desks.of(place.market);
        return (
          <Box key={place.id} sx={{ minWidth: 0, minHeight: 0, gridColumn: gap && i === 0 ? "span 2" : undefined }}>
            {desk && (
              <Pane
                shared={shared}
                desk={desk}
                place={place}
                name={String(i + 1)}
                active={i === active}
                alone={panes.length === 1}
                markets={markets}
                selected={selected}
                placing={placer.takes(place.id) ? placer.anchors : undefined}
                measured={placer.ruler?.length === 2 && placer.takes(place.id) ? placer.ruler : undefined}
                fits={fits}
                handlers={{
                  ...handlers,
                  onAnchor: (anchor) => placer.add(anchor, place.id),
                  onMenu: ({ point, ...what }) => onMenu(place.id, what, { left: point.x, top: point.y }),
                  onView: (view) => i === active && onView(view),
                }}
                onActivate={() => onActivate(i)}
                onMarket={(market) => toMarket(i, market)}
                onClose={() => close(i)}
                onChange={(view) => onChange(place.id, view)}
              />
            )}
          </Box>
        );
      })}
    </Box>
  );
}
