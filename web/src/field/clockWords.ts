import type { RunningClock } from "../api/generated/schema";

/** What somebody is doing by their clock. */
export function clockWords({ kind, work, visitId }: Pick<RunningClock, "kind" | "work" | "visitId">): string {
  switch (kind) {
    case "break":
      return "On a break";
    case "drive":
      return "Driving";
    case "labour":
      return visitId ? "Working elsewhere" : work;
  }
}
