import { useQuery } from "@tanstack/react-query";
import { queries } from "../api/queries";
import { moment } from "../format";
import lines from "../kit/Lines.module.css";
import { Section } from "../kit/Section";

/** Text messages as they went to customers. */
export function TextsSettings() {
  const { data, error } = useQuery(queries.texts);
  return (
    <Section name="Text messages">
      <p className="small soft">
        A stand-in takes all text messages until a carrier is connected; nothing leaves this machine.
      </p>
      {error && <p className="fault">{error.message}</p>}
      {data?.texts.length === 0 && <p className="soft">None has gone out.</p>}
      {data && data.texts.length > 0 && (
        <table className={lines.lines}>
          <caption className="visually-hidden">Text messages, the newest first</caption>
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">To</th>
              <th scope="col">Message</th>
            </tr>
          </thead>
          <tbody>
            {data.texts.map((text) => (
              <tr key={text.id}>
                <td className="soft">{text.sentAt ? moment(text.sentAt) : "waits"}</td>
                <td>{text.toNumber}</td>
                <td>{text.body}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}
