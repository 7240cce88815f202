import { createContext } from "react-router";
import type { Person } from "../server/accounts/sessions.ts";

/** Set anew for each request. */
export const nonceContext = createContext<string>("");
export const requestIdContext = createContext<string>("");
/** Address of the caller, by which the requests of people without an account are counted. */
export const callerContext = createContext<string>("");
export const personContext = createContext<Person | null>(null);
