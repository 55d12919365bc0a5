import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { PersonsWeek } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, hours, moment } from "../format";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { useTitle } from "../kit/useTitle";
import { useSession } from "../people/SessionGate";
import { mondayOf } from "./mondays";

/** Everybody's hours of a week, with what is still to be said and who has not signed off. */
export default function HoursPage() {
  const today = useSession().now.slice(0, 10);
  const { monday = mondayOf(today) } = useParams();
  const { data, error } = useQuery(queries.hoursOfWeek(monday));
  useTitle("Hours");
  if (error) {
    return (
      <div className="sheet alone">
        <p className="pad fault">{error.message}</p>
      </div>
    );
  }
  if (!data) {
    return <div className="sheet alone" aria-busy="true" />;
  }
  const open = data.people.filter((person) => !person.signedOff || person.signedOff.changedSince).length;
  return (
    <article className="sheet alone" aria-label="Hours of a week">
      <header className="section head">
        <div className="margin soft">Hours</div>
        <div className="titled">
          <div>
            <h1>Week of {day(data.monday)}</h1>
            <div className="small soft">
              {open === 0
                ? "All have signed it off."
                : `${open} of ${data.people.length} have not signed it off.`}
            </div>
          </div>
          <div className="actions">
            <Link to={`/hours/${data.weekBefore}`}>The week before</Link>
            <Link to={`/hours/${data.weekAfter}`}>The week after</Link>
          </div>
        </div>
      </header>
      <Section name="People">
        <Lines
          caption="Hours by technician"
          columns={[
            { name: "Technician" },
            { name: "labour", figure: true, width: 64 },
            { name: "other work", figure: true, width: 84 },
            { name: "drive", figure: true, width: 64 },
            { name: "paid", figure: true, width: 64 },
            { name: "of it overtime", figure: true, width: 104 },
            { name: "night", figure: true, width: 56 },
            { name: "break", figure: true, width: 56 },
            { name: "to check", figure: true, width: 70 },
            { name: "", silent: true, width: 24 },
            { name: "Signed off", width: 220 },
          ]}
        >
          {data.people.map((person) => (
            <Row key={person.personId} person={person} monday={data.monday} />
          ))}
        </Lines>
      </Section>
    </article>
  );
}

const figure = (minutes: number) => (minutes > 0 ? hours(minutes) : "–");

function Row({ person, monday }: { person: PersonsWeek; monday: string }) {
  const { worked, paid, waitingForCheck } = person.hours;
  return (
    <tr data-person={person.personId}>
      <td>
        <Link to={`/people/${person.personId}/days/${monday}`}>{person.person}</Link>
      </td>
      {[
        worked.labour,
        worked.otherWork,
        worked.drive,
        paid,
        worked.overtime,
        worked.night,
        worked.breaks,
        waitingForCheck,
      ].map((minutes, column) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the columns stay where they are
        <td key={column} className="figure">
          {column === 3 ? <b>{figure(minutes)}</b> : figure(minutes)}
        </td>
      ))}
      <td />
      <td>
        <Standing person={person} />
      </td>
    </tr>
  );
}

/** What keeps a week from being done, else when it was signed off. */
function Standing({ person }: { person: PersonsWeek }) {
  if (person.forgotten) {
    return <span className="needs">a clock runs past their hours</span>;
  }
  if (person.inDoubt > 0) {
    return (
      <span className="needs">
        {person.inDoubt === 1 ? "one end to be said" : `${person.inDoubt} ends to be said`}
      </span>
    );
  }
  if (person.running) {
    return <span className="soft">on the clock</span>;
  }
  if (!person.signedOff) {
    return <span className="soft">not yet</span>;
  }
  return person.signedOff.changedSince ? (
    <span className="needs">changed since {moment(person.signedOff.at)}</span>
  ) : (
    moment(person.signedOff.at)
  );
}
