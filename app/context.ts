import { createContext } from "react-router";
import type { Person } from "../server/accounts/accounts.ts";

/** Set anew for each request. */
export const nonceContext = createContext<string>("");
export const requestIdContext = createContext<string>("");
/** Address of the caller, for counting failed sign-ins. */
export const callerContext = createContext<string>("");
export const personContext = createContext<Person | null>(null);
