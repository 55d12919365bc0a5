import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useEffect } from "react";
import { answer, client, withKey } from "../api/client";
import type { JobMessage, PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moment } from "../format";
import { useAct } from "../kit/useAct";
import { useDraft } from "../kit/useKept";
import { Word } from "../kit/Word";
import { Dictate, joined } from "./Dictate";
import styles from "./Messages.module.css";
import { useTap } from "./useTap";

/** Who hears what is not said to the office, as the sheet says it. */
const TO = { site: "to the technicians", customer: "to the customer", office: "" };

/** What was said, one below the other. */
const Said = ({ messages }: { messages: JobMessage[] }) =>
  messages.length > 0 && (
    <div className={styles.messages}>
      {messages.map((message) => (
        <p key={message.id} className={`${styles.message} ${styles[message.from]}`}>
          {message.text}
          <span className="soft small">
            {" "}
            {message.id < 0 ? (
              <span className="needs">not sent yet</span>
            ) : (
              [
                [message.sentBy, TO[message.to]].filter(Boolean).join(" "),
                moment(message.sentAt),
                message.to !== "office" && (message.seenAt ? "seen" : "not seen yet"),
              ]
                .filter(Boolean)
                .join(", ")
            )}
          </span>
        </p>
      ))}
    </div>
  );

/** Where a message is written. */
function Writing({
  label,
  text,
  write,
  running,
  send,
  tall,
}: {
  label: string;
  text: string;
  write: (text: (now: string) => string) => void;
  running: boolean;
  send: () => void;
  tall?: boolean;
}) {
  return (
    <>
      <form
        className={styles.writing}
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() !== "") {
            send();
          }
        }}
      >
        <Input.TextArea
          className={tall ? "tall" : undefined}
          autoSize={{ minRows: tall ? 2 : 1, maxRows: 6 }}
          maxLength={1000}
          aria-label={label}
          placeholder={label}
          value={text}
          onChange={({ target }) => write(() => target.value)}
        />
        <Button
          className={tall ? "tall" : undefined}
          htmlType="submit"
          loading={running}
          disabled={text.trim() === ""}
        >
          Send
        </Button>
      </form>
      {tall && <Dictate of="the message" add={(said) => write((now) => joined(now, said))} />}
    </>
  );
}

type Reader = "office" | "site" | "customer";

/** A message that is not sent yet. */
type Written = { to: Reader; text: string };

/** What is said about the job, on the phone; what is looked at is seen. */
export function MessagesOnSite({ visit }: { visit: PocketVisit }) {
  const queryClient = useQueryClient();
  const { visitId } = visit;
  const { draft, change } = useDraft<Written>(`message of visit ${visitId}`, {
    to: "office",
    text: "",
  });
  const { to, text } = draft;
  const send = useTap({
    said: to === "office" ? "The office has it." : "The customer gets it.",
    done: () => change({ text: "" }),
  });
  const unseen = visit.messages.findLast((message) => message.to === "site" && !message.seenAt)?.id;
  useEffect(() => {
    if (unseen) {
      answer(client.POST("/api/pocket/visits/{id}/messages/seen", { params: { path: { id: visitId } } }))
        .then((page) => queryClient.setQueryData(queries.pocketVisit(visitId).queryKey, page))
        // Without a network it is seen the next time.
        .catch(() => undefined);
    }
  }, [unseen, visitId, queryClient]);
  return (
    <section className="fact" aria-label="Messages">
      <div className="first">
        <span>{visit.customerReachable ? "Office and customer" : "Office"}</span>
      </div>
      <Said messages={visit.messages} />
      {visit.customerReachable && (
        <fieldset className="causes">
          <legend className="visually-hidden">Whom to write to</legend>
          {(["office", "customer"] as const).map((one) => (
            <Button
              key={one}
              className="tall"
              type={one === to ? "primary" : "default"}
              aria-pressed={one === to}
              onClick={() => change({ to: one })}
            >
              To the {one}
            </Button>
          ))}
        </fieldset>
      )}
      <Writing
        tall
        label={to === "office" ? "Write to the office" : "Write to the customer"}
        running={send.running}
        text={text}
        write={(typed) => change((now) => ({ text: typed(now.text) }))}
        send={() => send.run({ step: "send_message", visitId, form: { text, to } })}
      />
    </section>
  );
}

/** The same on the job's sheet. */
export function MessagesOfJob({ jobId, editable }: { jobId: number; editable: boolean }) {
  const { data } = useQuery(queries.messagesOfJob(jobId));
  const { draft, change, forget } = useDraft<Partial<Written>>(`message of job ${jobId}`, {});
  const { to: chosen, text = "" } = draft;
  const choose = (reader: Reader) => change({ to: reader });
  const messages = data ?? [];
  const last = messages.at(-1);
  // Who asks is answered in one breath.
  const to = chosen ?? (last?.to === "office" ? last.from : undefined);
  const send = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/messages", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: { text, to },
        }),
      ),
    {
      said: to === "customer" ? "It goes to the customer." : "It is on the phones of whoever comes.",
      answers: queries.messagesOfJob(jobId).queryKey,
      done: forget,
    },
  );
  return (
    <section aria-label="Messages">
      <Said messages={messages} />
      {editable && to && (
        <>
          <div className="small">{to === "customer" ? "To the customer:" : "To the technicians:"}</div>
          <Writing
            label={to === "customer" ? "Write to the customer" : "Write to the technicians"}
            running={send.running}
            text={text}
            // What is being written goes to whom it was begun for, whoever else asks meanwhile.
            write={(typed) => change((now) => ({ to, text: typed(now.text ?? "") }))}
            send={() => send.run(undefined)}
          />
        </>
      )}
      {editable && (
        <div className="small">
          {to !== "site" && (
            <Word id={`write-about-${jobId}`} run={() => choose("site")}>
              Write to the technicians
            </Word>
          )}
          {!to && " · "}
          {to !== "customer" && (
            <Word id={`write-to-customer-${jobId}`} run={() => choose("customer")}>
              Write to the customer
            </Word>
          )}
        </div>
      )}
    </section>
  );
}
