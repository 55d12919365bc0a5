import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Agreement } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Section } from "../kit/Section";
import { Word } from "../kit/Word";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";
import { AgreementForm } from "./AgreementForm";
import { term } from "./words";

/** What was agreed with a customer for work that comes again. */
export function Agreements({ customerId }: { customerId: number }) {
  const { data, error } = useQuery(queries.agreements(customerId));
  const mayRecord = useMay("record_work");
  const [making, setMaking] = useState(false);
  const navigate = useNavigate();
  const { now } = useSession();
  return (
    <Section name="Rounds">
      {error && !data && <p className="fault">{error.message}</p>}
      {data?.map((agreement) => (
        <div key={agreement.id} data-agreement={agreement.id}>
          <Link to={`/agreements/${agreement.id}`}>
            Agreement {agreement.number}, {agreement.name}
          </Link>{" "}
          <span className={isOver(agreement, now) ? "needs" : "soft"}>
            {isOver(agreement, now) && "ended: "}
            {term(agreement)}
          </span>
          {agreement.rounds.map((round) => (
            <div key={round.id} className="small soft">
              {round.title}, {round.repeats}, {round.site}
            </div>
          ))}
        </div>
      ))}
      {data?.length === 0 && !making && <span className="soft">Nothing comes again by agreement. </span>}
      {mayRecord && !making && (
        <Word id={`new-agreement-${customerId}`} run={() => setMaking(true)}>
          New agreement
        </Word>
      )}
      {making && (
        <AgreementForm
          customerId={customerId}
          done={({ id }) => navigate(`/agreements/${id}`)}
          close={() => setMaking(false)}
        />
      )}
    </Section>
  );
}

const isOver = ({ until }: Agreement, now: string): boolean => until != null && until < now.slice(0, 10);
