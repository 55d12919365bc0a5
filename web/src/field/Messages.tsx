import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useEffect, useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { JobMessage, PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moment } from "../format";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";
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

function Writing({
  label,
  running,
  send,
  tall,
}: {
  label: string;
  running: boolean;
  send: (text: string) => void;
  tall?: boolean;
}) {
  const [text, setText] = useState("");
  return (
    <form
      className={styles.writing}
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== "") {
          send(text);
          setText("");
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
        onChange={(event) => setText(event.target.value)}
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
  );
}

type Reader = "office" | "site" | "customer";

/** What is said about the job, on the phone; what is looked at is seen. */
export function MessagesOnSite({ visit }: { visit: PocketVisit }) {
  const queryClient = useQueryClient();
  const { visitId } = visit;
  const [to, setTo] = useState<Reader>("office");
  const send = useTap({ said: to === "office" ? "The office has it." : "The customer gets it." });
  const unseen = visit.messages.some((message) => message.to === "site" && !message.seenAt);
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
              onClick={() => setTo(one)}
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
        send={(text) => send.run({ step: "send_message", visitId, form: { text, to } })}
      />
    </section>
  );
}

/** The same on the job's sheet. */
export function MessagesOfJob({ jobId, editable }: { jobId: number; editable: boolean }) {
  const queryClient = useQueryClient();
  const { data } = useQuery(queries.messagesOfJob(jobId));
  const [to, setTo] = useState<Reader>();
  const send = useAct(
    (text: string, key) =>
      answer(
        client.POST("/api/jobs/{id}/messages", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: { text, to },
        }),
      ),
    {
      said: to === "customer" ? "It goes to the customer." : "It is on the phones of whoever comes.",
      done: (messages) => {
        queryClient.setQueryData(queries.messagesOfJob(jobId).queryKey, messages);
        setTo(undefined);
      },
    },
  );
  const messages = data ?? [];
  return (
    <section aria-label="Messages">
      <Said messages={messages} />
      {to && (
        <Writing
          key={to}
          label={to === "customer" ? "Write to the customer" : "Write to the technicians"}
          running={send.running}
          send={send.run}
        />
      )}
      {editable && !to && (
        <div className="small">
          <Word id={`write-about-${jobId}`} run={() => setTo("site")}>
            Write to the technicians
          </Word>
          {" · "}
          <Word id={`write-to-customer-${jobId}`} run={() => setTo("customer")}>
            Write to the customer
          </Word>
        </div>
      )}
    </section>
  );
}
