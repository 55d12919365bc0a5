import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Spread } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, money } from "../format";
import { Lines } from "../kit/Lines";
import { Word } from "../kit/Word";
import styles from "./PastJobs.module.css";

type Props = { kindOfJobId: number | undefined; equipmentId: number | undefined };

/** What jobs like this one really took, beside what is being entered. */
export function PastJobs({ kindOfJobId, equipmentId }: Props) {
  const { data } = useQuery(queries.pastJobs(kindOfJobId, equipmentId));
  const [shown, setShown] = useState(false);
  if (!kindOfJobId || !data) {
    return null;
  }
  if (!data.labour) {
    return (
      <p className={`${styles.past} soft`}>
        {data.alike === 0 ? "No job of this kind was finished yet" : `Only ${data.alike} of this kind so far`}
        : too few to say what they take.
      </p>
    );
  }
  return (
    <section className={styles.past} aria-label="What such jobs took">
      <span className="soft">
        {data.alike} such jobs{data.sameEquipment ? ", same equipment," : ""} took
      </span>{" "}
      <Taken what="labour" spread={data.labour} as={hours} />
      <Taken what="drive" spread={data.drive} as={hours} />
      <Taken what="parts" spread={data.parts} as={money} />
      <Word run={() => setShown(!shown)}>{shown ? "hide them" : "which?"}</Word>
      {shown && (
        <Lines
          caption="Such jobs"
          columns={[
            { name: "job" },
            { name: "labour", figure: true },
            { name: "drive", figure: true },
            { name: "parts", figure: true },
          ]}
        >
          {data.jobs.map((job) => (
            <tr key={job.id}>
              <td>
                <Link to={`/jobs/${job.number}`}>Job {job.number}</Link> {job.title}
              </td>
              <td className="figure">{hours(job.labourMinutes)}</td>
              <td className="figure">{hours(job.driveMinutes)}</td>
              <td className="figure">{money(job.partsMinor)}</td>
            </tr>
          ))}
        </Lines>
      )}
    </section>
  );
}

function Taken({
  what,
  spread,
  as,
}: {
  what: string;
  spread: Spread | null | undefined;
  as: (value: number) => string;
}) {
  return spread ? (
    <span className={styles.took}>
      {what} <b>{as(spread.median)}</b>{" "}
      <span className="soft">
        ({as(spread.lowerQuartile)} to {as(spread.upperQuartile)})
      </span>
    </span>
  ) : null;
}
