import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { ClassMinutes, PaidPerson, PersonsWeek } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, hours, moment } from "../format";
import { ListFiles } from "../kit/KeyedList";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";
import { useSession } from "../people/SessionGate";
import { mondayOf, plusDays } from "./mondays";
import { WagesSection } from "./WagesSection";

/** Everybody's hours of a week, as they are paid, with what is still to be said and who has not signed off. */
export default function HoursPage() {
  const today = useSession().now.slice(0, 10);
  const { monday = mondayOf(today) } = useParams();
  const { data, error } = useQuery(queries.hoursOfWeek(monday));
  const sunday = data && plusDays(data.monday, 6);
  const { data: wages } = useQuery({ ...queries.wages(monday, sunday ?? ""), enabled: sunday !== undefined });
  useTitle("Hours");
  if (error && !data) {
    return (
      <div className={`${sheet.sheet} ${sheet.alone}`}>
        <p className="pad fault">{error.message}</p>
      </div>
    );
  }
  if (!data) {
    return <div className={`${sheet.sheet} ${sheet.alone}`} aria-busy="true" />;
  }
  const open = data.people.filter((person) => !person.signedOff || person.signedOff.changedSince).length;
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label="Hours of a week">
      <header className={sheet.head}>
        <div className={sheet.number}>Hours</div>
        <div className={sheet.titled}>
          <div>
            <h1>Week of {day(data.monday)}</h1>
            <div className="small soft">
              {open === 0
                ? "All have signed it off."
                : `${open} of ${data.people.length} have not signed it off.`}
            </div>
          </div>
          <div className="actions">
            <span>
              As they stand{" "}
              <ListFiles
                path="/api/wages"
                search={new URLSearchParams({ from: data.monday, to: sunday ?? "" })}
              />
            </span>
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
            { name: "labour", figure: true, width: 54 },
            { name: "other", figure: true, width: 50 },
            { name: "drive", figure: true, width: 50 },
            { name: "break", figure: true, width: 50 },
            { name: "paid", figure: true, width: 54 },
            ...CLASSES.map((name) => ({ name, figure: true, width: 60 })),
            { name: "to check", figure: true, width: 62 },
            { name: "gone out", figure: true, width: 64 },
            { name: "", silent: true, width: 16 },
            { name: "Signed off", width: 136 },
          ]}
        >
          {data.people.map((person) => (
            <Row
              key={person.personId}
              person={person}
              paid={wages?.people.find(({ personId }) => personId === person.personId)}
              monday={data.monday}
            />
          ))}
        </Lines>
      </Section>
      {wages && <WagesSection wages={wages} />}
    </article>
  );
}

const figure = (minutes: number) => (minutes > 0 ? hours(minutes) : "–");

type PayClass = ClassMinutes["payClass"];

/** Classes that are paid otherwise than normal time. */
const CLASSES = ["overtime", "night", "weekend", "holiday"] as const satisfies PayClass[];

function Row({
  person,
  paid,
  monday,
}: {
  person: PersonsWeek;
  paid: PaidPerson | undefined;
  monday: string;
}) {
  const { worked, waitingForCheck } = person.hours;
  const ofClass = (wanted: PayClass) =>
    paid?.classes.find(({ payClass }) => payClass === wanted)?.minutes ?? 0;
  return (
    <tr data-person={person.personId}>
      <td>
        <Link to={`/people/${person.personId}/days/${monday}`}>{person.person}</Link>
      </td>
      {[
        worked.labour,
        worked.otherWork,
        worked.drive,
        worked.breaks,
        paid?.minutes ?? 0,
        ...CLASSES.map(ofClass),
        waitingForCheck,
        paid?.sentMinutes ?? 0,
      ].map((minutes, column) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the columns stay where they are
        <td key={column} className="figure">
          {column === 4 ? <b>{figure(minutes)}</b> : figure(minutes)}
        </td>
      ))}
      <td />
      <td>
        <Standing person={person} cameInLate={paid?.cameInLate ?? false} />
      </td>
    </tr>
  );
}

/** What keeps a week from being done, else when it was signed off. */
function Standing({ person, cameInLate }: { person: PersonsWeek; cameInLate: boolean }) {
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
  if (cameInLate) {
    return (
      <Link to="/came-in-late" className="needs">
        time came in late, not answered
      </Link>
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
