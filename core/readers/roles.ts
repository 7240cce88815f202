/** What somebody may do besides reading. */
export type Right =
  /** Work at the desk: mark, write, publish. */
  | "desk"
  /** Read drafts of others, and approve them or ask back. */
  | "review"
  /** Decide which questions of readers others see. */
  | "moderate"
  /** Manage people, plans and what the desk decides. */
  | "own";

interface RoleFacts {
  /** As people are told. */
  name: string;
  rights: readonly Right[];
}

/** What each role may do, the most first. All but readers see everything that is published. */
export const ROLES = {
  owner: { name: "owner", rights: ["desk", "review", "moderate", "own"] },
  analyst: { name: "analyst", rights: ["desk", "review", "moderate"] },
  reviewer: { name: "reviewer", rights: ["review"] },
  moderator: { name: "moderator", rights: ["moderate"] },
  subscriber: { name: "reader", rights: [] },
} as const satisfies Record<string, RoleFacts>;

export type Role = keyof typeof ROLES;
export const ROLE_NAMES = Object.keys(ROLES) as Role[];

interface HasRole {
  role: Role;
}

export const may = ({ role }: HasRole, right: Right): boolean =>
  (ROLES[role].rights as readonly Right[]).includes(right);

/** Whether somebody reads what leaves the desk, as far as their plan shows it. */
export const isReader = ({ role }: HasRole): boolean => role === "subscriber";
