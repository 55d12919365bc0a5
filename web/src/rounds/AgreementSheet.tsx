import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../api/client";
import type { AgreedRound, Agreement, DueDate } from "../api/generated/schema";
import { queries } from "../api/queries";
import { fullDay, hours, weekday } from "../format";
import { History } from "../history/History";
import { Asking } from "../kit/Asking";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { Sheet, SheetHead, WaitingSheet } from "../kit/Sheet";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";
import { useMay } from "../people/useMay";
import { AgreementForm } from "./AgreementForm";
import { RoundForm } from "./RoundForm";
import styles from "./Rounds.module.css";
import { priced, standing, term } from "./words";

/** What was agreed, what comes again by it, and what became of each day. */
export function AgreementSheet({ id, alone }: { id: number; alone?: boolean }) {
  const { data: agreement, error } = useQuery(queries.agreement(id));
  const mayRecord = useMay("record_work");
  const [editing, setEditing] = useState(false);
  if (!agreement) {
    return <WaitingSheet alone={alone} sections={["Rounds", "Days", "History"]} fault={error?.message} />;
  }
  return (
    <Sheet
      label={`Agreement ${agreement.number}`}
      alone={alone}
      record={`agreement-${agreement.id}`}
      head={
        <SheetHead
          number={`A ${agreement.number}`}
          title={agreement.name}
          titled={`A ${agreement.number} ${agreement.name}`}
          actions={
            mayRecord &&
            !editing && (
              <Button id={`edit-agreement-${id}`} onClick={() => setEditing(true)}>
                Change
              </Button>
            )
          }
          about={
            <>
              <Link to={`/customers/${agreement.customerId}`}>{agreement.customer}</Link> · {term(agreement)}
            </>
          }
        />
      }
    >
      {editing && (
        <Section name="Agreed">
          <AgreementForm
            customerId={agreement.customerId}
            agreement={agreement}
            close={() => setEditing(false)}
          />
        </Section>
      )}
      <Section name="Rounds">
        {agreement.rounds.length === 0 && <span className="soft">Nothing comes again by it yet.</span>}
        {agreement.rounds.map((round) => (
          <RoundLine key={round.id} agreement={agreement} round={round} mayRecord={mayRecord} />
        ))}
        {mayRecord && <NewRound agreement={agreement} />}
      </Section>
      <Section name="Days">
        <Days id={agreement.id} />
      </Section>
      <Section name="History">
        <History kind="agreement" id={agreement.id} />
      </Section>
    </Sheet>
  );
}

function NewRound({ agreement }: { agreement: Agreement }) {
  const [adding, setAdding] = useState(false);
  return adding ? (
    <RoundForm agreement={agreement} close={() => setAdding(false)} />
  ) : (
    <Button id={`add-round-${agreement.id}`} size="small" onClick={() => setAdding(true)}>
      Add a round
    </Button>
  );
}

function RoundLine({
  agreement,
  round,
  mayRecord,
}: {
  agreement: Agreement;
  round: AgreedRound;
  mayRecord: boolean;
}) {
  const [editing, setEditing] = useState(false);
  const remove = useAct(
    () =>
      answer(
        client.POST("/api/rounds/{id}/remove", {
          params: { path: { id: round.id } },
          body: { version: round.version },
        }),
      ),
    { said: `Taken away: ${round.title}.` },
  );
  if (editing) {
    return <RoundForm agreement={agreement} round={round} close={() => setEditing(false)} />;
  }
  return (
    <div className={styles.round} data-round={round.id}>
      <div>
        <b>{round.title}</b>, {round.repeats}
        {round.until && ` until ${fullDay(round.until)}`}
        <div className="soft">
          {round.site}
          {round.equipment && `, ${round.equipment}`} · {round.kindOfJob} · {hours(round.expectedMinutes)} ·{" "}
          {priced(round)}
        </div>
      </div>
      {mayRecord && (
        <span className={styles.acts}>
          <Word id={`edit-round-${round.id}`} of={round.title} run={() => setEditing(true)}>
            Change
          </Word>
          {!round.begun && (
            <Asking
              plain
              label="Take away…"
              of={round.title}
              title={`Take ${round.title} away?`}
              confirm="Take it away"
              run={() => remove.run()}
            />
          )}
        </span>
      )}
    </div>
  );
}

function Days({ id }: { id: number }) {
  const { data: dates, error } = useQuery(queries.agreementDates(id));
  if (error && !dates) {
    return <p className="fault">{error.message}</p>;
  }
  if (dates?.length === 0) {
    return <span className="soft">Nothing is due within a year.</span>;
  }
  return (
    <Lines
      caption="Days on which its rounds are due"
      columns={[{ name: "Due", width: 130 }, { name: "What" }, { name: "How it stands" }]}
    >
      {dates?.map((date) => (
        <tr key={`${date.roundId} ${date.dueOn}`} data-due={date.dueOn}>
          <td>
            {weekday(date.dueOn)} {date.dueOn.slice(0, 4)}
          </td>
          <td>
            {date.title}
            {date.jobNumber != null && (
              <>
                {" "}
                · <Link to={`/jobs/${date.jobNumber}`}>Job {date.jobNumber}</Link>
              </>
            )}
          </td>
          <td className={looks(date)}>{standing(date)}</td>
        </tr>
      ))}
    </Lines>
  );
}

/** Late stands out, what lies ahead steps back. */
const looks = ({ late, state }: DueDate): string | undefined =>
  late ? "needs" : state === "due" ? "soft" : undefined;
