import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../api/queries";
import { fullDay, money } from "../format";
import { Word } from "../kit/Word";
import { priced } from "./words";

/** By which agreement a job came, for which day, and when it comes next; nothing for a job of no round. */
export function OfRound({ jobId }: { jobId: number }) {
  const { data } = useQuery(queries.roundsOfJob(jobId));
  return data?.map((round) => (
    <div key={round.dueOn} data-section="round">
      Due {fullDay(round.dueOn)} by{" "}
      <Link to={`/agreements/${round.agreementId}`}>
        Agreement {round.agreementNumber}, {round.agreement}
      </Link>
      : {round.repeats}, {priced(round)} ·{" "}
      {round.nextDueOn ? `next ${fullDay(round.nextDueOn)}` : "the last time"}
      {round.notThisTime && <span className="needs"> · not this time: {round.notThisTime}</span>}
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

/** What was agreed that each time costs, where the job is charged otherwise; one press charges that again. */
export function AgreedPrice({
  jobId,
  chargedMinor,
  charge,
}: {
  jobId: number;
  /** What it is charged at as the customer was told without VAT; nothing where it is charged in another way. */
  chargedMinor: number | undefined;
  /** Nothing for whoever may not. */
  charge: ((price: string) => void) | undefined;
}) {
  const { data } = useQuery(queries.roundsOfJob(jobId));
  return data?.map(
    ({ priceMinor, dueOn }) =>
      priceMinor != null &&
      priceMinor !== chargedMinor && (
        <p key={dueOn} className="small" data-section="agreed-price">
          {money(priceMinor)} without VAT was agreed.{" "}
          {charge && <Word run={() => charge(money(priceMinor))}>Charge that</Word>}
        </p>
      ),
  );
}
