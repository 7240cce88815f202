import { useCallback } from "react";
import type { Mark } from "#core/marks/kind";
import { rungText } from "#core/marks/wording";
import { COMMANDS } from "../../../parts/keys.ts";
import { useOffers, type Offer } from "../../../parts/finding/offers.ts";
import type { Lives } from "../marks/livesBoard.ts";

interface Workspace {
  rungs: readonly { rung: string }[];
  marks: readonly Mark[];
  lives: Lives;
  commands: Readonly<Record<string, (() => void) | undefined>>;
  toRung(rung: string): void;
  select(mark: string): void;
}

/** What a market's workspace lets the palette find: its rungs, its marks by what they say, and what can be done. */
export function useDescentOffers({ rungs, marks, lives, commands, toRung, select }: Workspace): void {
  const offers = useCallback((): Offer[] => {
    return [
      ...rungs.map(({ rung }): Offer => ({ group: "Rungs", name: rungText(rung), run: () => toRung(rung) })),
      ...marks.map((mark): Offer => ({
        group: "Marks",
        name: `${rungText(mark.rung)}: ${lives.get(mark.id)?.says ?? mark.kind}`,
        run: () => select(mark.id),
      })),
      ...COMMANDS.flatMap(({ id, name, key }): Offer[] => {
        const run = commands[id];
        return run ? [{ group: "Commands", name, key, run }] : [];
      }),
    ];
  }, [rungs, marks, lives, commands, toRung, select]);
  useOffers(offers);
}
