import { useTheme } from "@mui/material/styles";

/** The mark of the house: a ring in ink and the only brass there is. */
export function Compass({ size = 22 }: { size?: number }) {
  const { vars } = useTheme() as { vars?: { palette: { text: { primary: string } } } };
  const ink = vars?.palette.text.primary ?? "currentColor";
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <circle cx="16" cy="16" r="14" fill="none" stroke={ink} strokeWidth="2" />
      <path d="M16 4 20 16 16 28 12 16Z" fill="none" stroke={ink} strokeWidth="1.4" />
      <path d="M16 4 20 16H12Z" fill="#A8812E" stroke={ink} strokeWidth="1.4" />
    </svg>
  );
}
