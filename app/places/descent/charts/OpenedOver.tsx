import { lazy, Suspense } from "react";
import type { Mark } from "#core/marks/kind";
import type { Shown } from "#core/marks/shown";
import type { MarketDesk } from "../marks/desks.ts";
import type { CopyDialog as Dialog } from "../marks/CopyDialog.tsx";

/** Loaded when they are first wanted. */
const ShownChoice = lazy(async () => ({ default: (await import("./ShownChoice.tsx")).ShownChoice }));
const CopyDialog = lazy(async () => ({ default: (await import("../marks/CopyDialog.tsx")).CopyDialog }));

/** What is opened over the desk. */
export type Open = "date" | "shown" | "copy" | "bearing" | undefined;

interface Props {
  open: Open;
  shown: Shown;
  onShow(shown: Shown): void;
  /** Marks that are to be copied. */
  copying: readonly Mark[];
  desk: MarketDesk;
  markets: { id: string; name: string }[];
  now: number;
  asOf: number | undefined;
  onCopy: Parameters<typeof Dialog>[0]["onCopy"];
  onClose(): void;
}

/** Choices and dialogs that lie over the charts while they are open. */
export function OpenedOver({ open, shown, onShow, copying, desk, markets, now, asOf, onCopy, onClose }: Props) {
  return (
    <>
      {open === "shown" && (
        <Suspense>
          <ShownChoice
            anchor={document.querySelector("[data-shown]")}
            shown={shown}
            onShow={onShow}
            onClose={onClose}
          />
        </Suspense>
      )}
      {open === "copy" && copying.length > 0 && (
        <Suspense>
          <CopyDialog
            from={desk.market}
            marks={[...copying]}
            markets={markets}
            at={now}
            zone={desk.calendar.zone}
            asOf={asOf}
            onCopy={onCopy}
            onClose={onClose}
          />
        </Suspense>
      )}
    </>
  );
}
