import { lazy, Suspense } from "react";
import { useSession, useSessionState, useWorkspace } from "../session/context.ts";

/** Loaded when they are first wanted. */
const ShownChoice = lazy(async () => ({ default: (await import("./ShownChoice.tsx")).ShownChoice }));
const AlertDialog = lazy(async () => ({ default: (await import("./AlertDialog.tsx")).AlertDialog }));
const CopyDialog = lazy(async () => ({ default: (await import("../marks/CopyDialog.tsx")).CopyDialog }));

/** Choices and dialogs that lie over the charts while they are open. */
export function OpenedOver() {
  const session = useSession();
  const open = useSessionState((state) => state.open);
  const selected = useSessionState((state) => state.selected);
  const alertAt = useSessionState((state) => state.alertAt);
  const { desk, desks, panes, marks, markets, marked, machine, now, asOf } = useWorkspace();
  const copying = marks.filter(({ id }) => selected.includes(id));
  const onClose = () => session.set({ open: undefined });
  const copy = async (...[market, relation]: Parameters<Parameters<typeof CopyDialog>[0]["onCopy"]>) => {
    onClose();
    session.set({ said: marked.copyTo(await desks.open(market), relation) });
  };
  return (
    <>
      {open === "shown" && (
        <Suspense>
          <ShownChoice
            anchor={document.querySelector("[data-shown]")}
            shown={panes.shown}
            onShow={panes.show}
            onClose={onClose}
          />
        </Suspense>
      )}
      {open === "alert" && alertAt && (
        <Suspense>
          <AlertDialog
            {...alertAt}
            atr={machine.findings?.rungs.find(({ rung }) => rung === alertAt.rung)?.atr ?? 0}
            onClose={onClose}
          />
        </Suspense>
      )}
      {open === "copy" && copying.length > 0 && (
        <Suspense>
          <CopyDialog
            from={desk.market}
            marks={copying}
            markets={markets}
            at={now}
            zone={desk.calendar.zone}
            asOf={asOf}
            onCopy={(...asked) => void copy(...asked)}
            onClose={onClose}
          />
        </Suspense>
      )}
    </>
  );
}
