import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../api/queries";
import { fullDay } from "../format";

/** By which agreement a job came, for which day, and when it comes next; nothing for a job of no round. */
export function OfRound({ jobId }: { jobId: number }) {
  const { data } = useQuery(queries.roundsOfJob(jobId));
  return data?.map(({ agreementId, agreementNumber, agreement, repeats, dueOn, nextDueOn, notThisTime }) => (
    <div key={dueOn} data-section="round">
      Due {fullDay(dueOn)} by{" "}
      <Link to={`/agreements/${agreementId}`}>
        Agreement {agreementNumber}, {agreement}
      </Link>
      , {repeats} · {nextDueOn ? `next ${fullDay(nextDueOn)}` : "the last time"}
      {notThisTime && <span className="needs"> · not this time: {notThisTime}</span>}
    </div>
  ));
}

/**
 * What becomes of the round when this visit does not happen, in words; nothing where a new visit takes its place.
 */
export function useGoesOn(jobId: number, visitId: number): string | undefined {
  const { data } = useQuery(queries.roundsOfJob(jobId));
  const round = data?.find(({ onlyVisitId }) => onlyVisitId === visitId);
  return (
    round &&
    (round.nextDueOn
      ? `the round goes on to ${fullDay(round.nextDueOn)}`
      : "the round does not come again, for its agreement has ended by then")
  );
}
