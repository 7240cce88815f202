import { createContext } from "react";

/** The secret word by which a page's own scripts and styles are known, on pages that only say what failed as well. */
export const Nonce = createContext<string | undefined>(undefined);
