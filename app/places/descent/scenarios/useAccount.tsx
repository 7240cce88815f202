import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useMemo, useState, type ReactNode } from "react";
import type { AccountRisk } from "#core/written/figures";
import { parseNumber } from "../../../parts/numbers.ts";

const STORED = "compass-account";

interface Typed {
  account: string;
  percent: string;
  point: string;
}

const NOTHING: Typed = { account: "", percent: "1", point: "1" };

function stored(): Typed {
  try {
    const { account, percent, point } = JSON.parse(localStorage.getItem(STORED) ?? "{}") as Partial<Typed>;
    return { account: account ?? "", percent: percent ?? "1", point: point ?? "1" };
  } catch {
    return NOTHING;
  }
}

/** What is put at risk, as it is typed; kept in this browser alone. */
export function useAccount(): { account: ReactNode; risk: AccountRisk | undefined } {
  const [typed, setTyped] = useState(stored);
  const set = (change: Partial<Typed>) => {
    const next = { ...typed, ...change };
    setTyped(next);
    try {
      localStorage.setItem(STORED, JSON.stringify(next));
    } catch {
      // Kept for this page only where the browser stores nothing.
    }
  };
  const risk = useMemo((): AccountRisk | undefined => {
    const [account, percent, pointValue] = [typed.account, typed.percent, typed.point].map(parseNumber);
    return account > 0 && percent > 0 && pointValue > 0 ? { account, share: percent / 100, pointValue } : undefined;
  }, [typed]);
  const field = (name: keyof Typed, label: string) => (
    <TextField
      label={label}
      value={typed[name]}
      onChange={({ target: { value } }) => set({ [name]: value })}
      slotProps={{ htmlInput: { inputMode: "decimal", maxLength: 14 }, inputLabel: { shrink: true } }}
    />
  );
  const account = (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 60px 1fr", gap: 1, mt: 0.75 }}>
      {field("account", "Account")}
      {field("percent", "Risk %")}
      {field("point", "A unit makes per 1.0")}
    </Box>
  );
  return { account, risk };
}
