import { useCallback } from "react";
import type { Mark } from "#core/marks/kind";
import { rungText } from "#core/marks/wording";
import { COMMANDS } from "../../../parts/keys.ts";
import { useOffers, type Offer } from "../../../parts/finding/offers.ts";
import { OTHER_WORDS } from "../../../parts/finding/otherWords.ts";
import type { Panes } from "../charts/usePanes.ts";
import type { Lives } from "../marks/livesBoard.ts";
import type { CommandRegistry } from "../session/commandRegistry.ts";

interface Workspace {
  rungs: readonly { rung: string }[];
  marks: readonly Mark[];
  lives: Lives;
  commands: CommandRegistry;
  panes: Pick<Panes, "toRung">;
  select(ids: string[]): void;
}

/** What a market's workspace lets the palette find: its rungs, its marks by what they say, and what can be done. */
export function useDescentOffers({ rungs, marks, lives, commands, panes, select }: Workspace): void {
  const offers = useCallback((): Offer[] => {
    const can = commands.all();
    return [
      ...rungs.map(({ rung }): Offer => ({ group: "Rungs", name: rungText(rung), run: () => panes.toRung(rung) })),
      ...marks.map((mark): Offer => ({
        group: "Marks",
        name: `${rungText(mark.rung)}: ${lives.get(mark.id)?.says ?? mark.kind}`,
        run: () => select([mark.id]),
      })),
      ...COMMANDS.flatMap(({ id, name, key }): Offer[] => {
        const run = can[id];
        return run ? [{ group: "Commands", name, also: OTHER_WORDS[id] ?? "", key, run }] : [];
      }),
    ];
  }, [rungs, marks, lives, commands, panes, select]);
  useOffers(offers);
}
