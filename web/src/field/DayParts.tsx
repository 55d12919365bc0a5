import { lazy, Suspense } from "react";
import type { Day } from "../api/generated/schema";
import { Look } from "../kit/Look";
import { OwnCalendar } from "../telling/OwnCalendar";
import { AllowPosition } from "./AllowPosition";
import { OffVisit } from "./OffVisit";

// Most days nothing is in doubt, and nothing need wait for its form.
const InDoubt = lazy(() => import("./InDoubt"));

/** What else is done on the day: times in doubt, and what is done on no visit. */
export const AfterStops = ({ day }: { day: Day }) => (
  <Look>
    {day.inDoubt.map((entry) => (
      <Suspense key={entry.id}>
        <InDoubt entry={entry} />
      </Suspense>
    ))}
    <OffVisit day={day} />
  </Look>
);

/** What whoever carries the phone has chosen for it. */
export const OwnChoices = () => (
  <Look>
    <OwnCalendar />
    <AllowPosition />
  </Look>
);
