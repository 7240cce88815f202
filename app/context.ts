import { createContext } from "react-router";
import type { Caller, Person } from "../server/accounts/sessions.ts";
import type { Coding } from "./pagesForMany.ts";

/** Set anew for each request. */
export const nonceContext = createContext<string>("");
/** What is known of a request, and how its answer may be sent, before anything of it is read. */
interface Answer {
  /** Writes of this process before. */
  writes: number;
  coding: Coding;
  /** Lets the answer have scripts and styles by their digests. */
  allow(sources: { scripts: string[]; styles: string[] }): void;
}
export const answerContext = createContext<Answer>({ writes: 0, coding: "identity", allow: () => undefined });
/** Address of the caller, by which the requests of people without an account are counted. */
export const callerContext = createContext<string>("");
export const personContext = createContext<(Person & Partial<Caller>) | null>(null);
