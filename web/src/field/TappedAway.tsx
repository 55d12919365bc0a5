import { useQuery } from "@tanstack/react-query";
import { queries } from "../api/queries";

/** That a clock was started or stopped away from the site, as its phone said. */
export function TappedAway({ jobId, timeEntryId }: { jobId: number; timeEntryId: number }) {
  const { data } = useQuery(queries.tapPositions(jobId));
  return data
    ?.filter((tap) => tap.timeEntryId === timeEntryId && tap.away)
    .map((tap) => (
      <div key={String(tap.atStart)} className="needs small">
        {tap.atStart ? "started" : "stopped"} {tap.miles} miles from the site
      </div>
    ));
}
