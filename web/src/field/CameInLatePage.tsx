import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../api/client";
import type { LateStretch, LateVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, moment, words } from "../format";
import { Lines } from "../kit/Lines";
import { RecordForm } from "../kit/RecordForm";
import { Section } from "../kit/Section";
import sheet from "../kit/Sheet.module.css";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { useMay } from "../people/useMay";
import { TAPPED } from "./tapped";

/** What phones sent too late to be taken as it was: the office says whether it counts. */
export default function CameInLatePage() {
  const { data, error } = useQuery(queries.lateActs);
  useTitle("Came in late");
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
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label="Came in late">
      <header className={sheet.head}>
        <div className={sheet.number}>Hours</div>
        <div className={sheet.titled}>
          <div>
            <h1>Came in late</h1>
            <div className="small soft">
              {data.length === 0
                ? "Nothing waits. What a phone keeps without a network is taken by itself where it still can be."
                : "Tapped without a network, while it was changed here. Say whether it counts."}
            </div>
          </div>
        </div>
      </header>
      {data.map((visit) => (
        <Late key={`${visit.personId} ${visit.visitId}`} late={visit} />
      ))}
    </article>
  );
}

/** How the visit stands by now, which is why the taps could not be taken. */
function standing({ visitState, technician, person }: LateVisit): string | undefined {
  if (!visitState) {
    return undefined;
  }
  return technician && technician !== person
    ? `The visit is ${technician}'s by now, ${words(visitState)}.`
    : `The visit is ${words(visitState)} by now.`;
}

function Late({ late }: { late: LateVisit }) {
  const mayAnswer = useMay("sell");
  const [ended, setEnded] = useState<Record<number, string>>({});
  const [refusing, setRefusing] = useState(false);
  const lateActIds = late.taps.map(({ id }) => id);
  const write = useAct(
    () =>
      answer(
        client.POST("/api/late-acts/write-down", {
          body: {
            lateActIds,
            ends: Object.entries(ended).map(([id, endedAt]) => ({ lateActId: Number(id), endedAt })),
          },
        }),
      ),
    { said: "Written down. It waits for the check like any other visit." },
  );
  const details = [...new Set(late.taps.map(({ detail }) => detail))];
  return (
    <Section name={late.person}>
      <div data-late={late.visitId ?? 0}>
        <h2>
          {late.jobNumber ? (
            <>
              <Link to={`/jobs/${late.jobNumber}`}>Job {late.jobNumber}</Link> {late.title}, {late.customer}
            </>
          ) : (
            "On no visit"
          )}
        </h2>
        <p>{[standing(late), ...details].filter(Boolean).join(" ")}</p>
        <Lines
          caption={`What ${late.person} tapped`}
          columns={[{ name: "Tapped" }, { name: "What" }, { name: "Said" }]}
        >
          {late.taps.map((tap) => (
            <tr key={tap.id}>
              <td>
                {moment(tap.at)}
                {tap.clockAheadMinutes !== 0 && (
                  <div className="soft small">
                    the phone's clock was {hours(Math.abs(tap.clockAheadMinutes))}{" "}
                    {tap.clockAheadMinutes > 0 ? "ahead" : "behind"}
                  </div>
                )}
              </td>
              <td>{TAPPED[tap.step]}</td>
              <td>{tap.said}</td>
            </tr>
          ))}
        </Lines>
        {late.times.map((stretch) => (
          <Stretch
            key={`${stretch.lateActId} ${stretch.person}`}
            stretch={stretch}
            ended={ended[stretch.lateActId] ?? ""}
            setEnded={(typed) => setEnded({ ...ended, [stretch.lateActId]: typed })}
          />
        ))}
        {mayAnswer && (
          <div className="actions">
            <Button type="primary" loading={write.running} onClick={() => write.run()}>
              It counts: write it down
            </Button>{" "}
            <Button onClick={() => setRefusing(true)}>It does not count</Button>
          </div>
        )}
        {refusing && (
          <RecordForm
            title={`Does not count: ${late.person}`}
            confirm="Tell them so"
            fields={[{ name: "reason", label: "Why; they read it on their phone", needed: true }]}
            initial={{ reason: "" }}
            version={0}
            save={(values) =>
              answer(
                client.POST("/api/late-acts/refuse", {
                  body: { lateActIds, reason: String(values.reason ?? "") },
                }),
              )
            }
            close={() => setRefusing(false)}
          />
        )}
      </div>
    </Section>
  );
}

/** Time as it would be written down; where no tap ends it, somebody has to say when it ended. */
function Stretch({
  stretch,
  ended,
  setEnded,
}: {
  stretch: LateStretch;
  ended: string;
  setEnded: (typed: string) => void;
}) {
  const what = `${stretch.person}: ${stretch.work || words(stretch.kind)} from ${moment(stretch.from)}`;
  if (!stretch.to) {
    return (
      <p>
        <label>
          {what}, ended at{" "}
          <Input
            style={{ width: 96 }}
            placeholder="16:30"
            value={ended}
            onChange={(event) => setEnded(event.target.value)}
          />
        </label>
      </p>
    );
  }
  return (
    <p>
      {what} to {stretch.to.slice(11, 16)}, {hours(stretch.minutes ?? 0)}
      {stretch.miles > 0 && `, ${stretch.miles} miles`}
    </p>
  );
}
