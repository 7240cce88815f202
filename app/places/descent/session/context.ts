import { createContext, use, useSyncExternalStore } from "react";
import type { DescentSession, SessionState } from "./descentSession.ts";
import type { Work } from "./useWork.ts";

export const SessionContext = createContext<DescentSession | undefined>(undefined);
export const WorkContext = createContext<Work | undefined>(undefined);

export function useSession(): DescentSession {
  const session = use(SessionContext);
  if (!session) throw new Error("This belongs on a market's workspace.");
  return session;
}

/** A part of the session; what reads it is drawn anew when that part changes, and for nothing else. */
export function useSessionState<T>(read: (state: SessionState) => T): T {
  const session = useSession();
  return useSyncExternalStore(
    session.subscribe,
    () => read(session.get()),
    () => read(session.get()),
  );
}

/** What is worked with: the market, the chart and the marks in hand. */
export function useWorkspace(): Work {
  const work = use(WorkContext);
  if (!work) throw new Error("This belongs on a market's workspace.");
  return work;
}
