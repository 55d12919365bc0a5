import { answer, client, withKey } from "../api/client";
import type { Wages } from "../api/generated/schema";
import { day, hours, moment } from "../format";
import { Asking } from "../kit/Asking";
import { ListFiles } from "../kit/KeyedList";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { useMay } from "../people/useMay";

/** What of these days goes out for the wages next, and what went out of them before. */
export function WagesSection({ wages }: { wages: Wages }) {
  const mayRecord = useMay("record_work");
  const { from, to, duePeople, dueMinutes } = wages;
  const send = useAct(
    (_: string, key) => answer(client.POST("/api/wages/runs", { params: withKey(key), body: { from, to } })),
    { said: "It is kept as it went out. Take its file for the wages." },
  );
  return (
    <Section name="For the wages">
      <p data-due>
        {due(wages)} {left(wages)}
      </p>
      {mayRecord && duePeople > 0 && (
        <div>
          <Asking
            label="Send out…"
            of="hours for the wages"
            title={`Send out ${hours(dueMinutes)} of ${people(duePeople)}?`}
            further={
              <p className="small soft">
                It is kept as it goes out. What is put right afterwards goes out the next time, as what it
                differs by.
              </p>
            }
            confirm="Send out"
            run={send.run}
            running={send.running}
          />
        </div>
      )}
      {wages.runs.map((run) => (
        <p key={run.id} className="soft" data-run={run.id}>
          {moment(run.at)} by {run.by}: {hours(run.minutes)} of {people(run.people)}, asked for{" "}
          {day(run.from)} to {day(run.to)}{" "}
          <ListFiles path={`/api/wages/runs/${run.id}`} search={new URLSearchParams()} />
        </p>
      ))}
    </Section>
  );
}

const people = (count: number) => (count === 1 ? "one person" : `${count} people`);

function due({ duePeople, dueMinutes, earlierDueMinutes }: Wages): string {
  if (duePeople === 0) {
    return "Nothing is to go out now.";
  }
  const earlier = earlierDueMinutes === 0 ? "" : `, of it ${hours(earlierDueMinutes)} of weeks before`;
  return `To go out: ${hours(dueMinutes)} of ${people(duePeople)}${earlier}.`;
}

function left({ notClosed, people: all }: Wages): string {
  if (notClosed === 0) {
    return "Everything of this week is checked.";
  }
  return notClosed === all.length
    ? "Nobody's hours of this week are checked yet."
    : `${notClosed === 1 ? "One is" : `${notClosed} are`} left out until their hours are checked.`;
}
