import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import { queries } from "../api/queries";
import { moment } from "../format";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";

/** Where whoever is signed in is signed in, and an end to it. */
export function OwnSessions() {
  const { data, error } = useQuery(queries.sessions);
  const end = useAct(
    (id: number) => answer(client.DELETE("/api/sessions/{id}", { params: { path: { id } } })),
    { said: "Signed out there." },
  );
  const endOthers = useAct(() => answer(client.DELETE("/api/sessions")), {
    said: "Signed out everywhere else.",
  });
  return (
    <Section name="Signed in" aside="where you are">
      {error && <p className="fault">{error.message}</p>}
      {data && (
        <Lines
          caption="Where you are signed in"
          columns={[
            { name: "With" },
            { name: "From" },
            { name: "Since" },
            { name: "Last used" },
            { name: "What can be done", silent: true },
          ]}
        >
          {data.map((session) => (
            <tr key={session.id}>
              <td>{browser(session.browser)}</td>
              <td>{session.address}</td>
              <td>{moment(session.signedInAt)}</td>
              <td>{session.here ? <b>here, now</b> : moment(session.lastSeenAt)}</td>
              <td className="figure">
                {!session.here && (
                  <button
                    type="button"
                    className="plain small"
                    aria-label={`sign out there, since ${moment(session.signedInAt)}`}
                    onClick={() => end.run(session.id)}
                  >
                    sign out there
                  </button>
                )}
              </td>
            </tr>
          ))}
        </Lines>
      )}
      {data && data.length > 1 && (
        <button type="button" className="plain small" onClick={() => endOthers.run()}>
          sign out everywhere else
        </button>
      )}
    </Section>
  );
}

/** What a browser says of itself, as far as a person knows it: on what it runs. */
function browser(said: string): string {
  const system = /iPhone|iPad|Android|Windows|Macintosh|CrOS|Linux/.exec(said)?.[0];
  const names: Record<string, string> = { Macintosh: "Mac", CrOS: "Chromebook", Android: "Android phone" };
  return system ? (names[system] ?? system) : "unknown";
}
