import { createContext } from "react-router";
import type { Caller, Person } from "../server/accounts/sessions.ts";

/** Set anew for each request. */
export const nonceContext = createContext<string>("");
export const requestIdContext = createContext<string>("");
/** Writes of this process before anything was read for the request. */
export const writesContext = createContext<number>(0);
/** Address of the caller, by which the requests of people without an account are counted. */
export const callerContext = createContext<string>("");
export const personContext = createContext<(Person & Partial<Caller>) | null>(null);
