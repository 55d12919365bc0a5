import { useQuery } from "@tanstack/react-query";
import { queries } from "../api/queries";
import { besideStyles } from "../kit/Beside";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";
import styles from "./MailStandInPage.module.css";

/** Everything that left by mail in the demo, as its receivers would read it. */
export default function MailStandInPage() {
  const { data, error } = useQuery(queries.mailStandIn);
  useTitle("Mail stand-in");
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label="Mail stand-in">
      <div className={besideStyles.head}>
        <div className={besideStyles.line}>
          <h1>Mail stand-in</h1>
          <span className="soft small">
            takes every message of this program and delivers none; it forgets them when the program stops
          </span>
        </div>
      </div>
      {error && <p className="pad fault">{error.message}</p>}
      {data?.length === 0 && <p className="pad soft">No message yet. Send a quote, then look here.</p>}
      {data?.map((message) => (
        <section className={styles.message} key={message.number} aria-label={message.subject}>
          <div className="soft small">to {message.to}</div>
          <h2>{message.subject}</h2>
          <pre>{linked(message.body)}</pre>
          {message.attachmentName && (
            <a className="small" href={`/api/mail-stand-in/${message.number}/attachment`}>
              {message.attachmentName}
            </a>
          )}
        </section>
      ))}
    </article>
  );
}

/** The text with its addresses as links. */
function linked(body: string) {
  return body.split(/(https?:\/\/\S+)/).map((part, index) =>
    part.startsWith("http") ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a message never change places
      <a key={index} href={new URL(part).pathname}>
        {part}
      </a>
    ) : (
      part
    ),
  );
}
