import type { Session } from "../api/generated/schema";
import { useSession } from "./SessionGate";

type Role = NonNullable<Session["person"]>["role"];

const DESK: Role[] = ["office", "owner"];

/** Who may do what is decided by the server; here is only shown what it would not refuse. */
const WHO = {
  take_calls: DESK,
  sell: DESK,
  record_work: DESK,
  bill: DESK,
  give_money_back: DESK,
  change_settings: DESK,
} satisfies Record<string, Role[]>;

/** Whether whoever is signed in may do this. */
export function useMay(what: keyof typeof WHO): boolean {
  return WHO[what].includes(useSession().person.role);
}
