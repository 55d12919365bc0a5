import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { answer, client, type Problem, withKey } from "../api/client";
import type { CallerCard, CallOf, TakenCall, TypedAnswer } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Warranties } from "../customers/CallerCardView";
import { day, moment, time, weekday, words } from "../format";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import { useSession } from "../people/SessionGate";
import { useOpenQuote } from "../quoting/useOpenQuote";
import styles from "./CallSlip.module.css";
import { FaultTalkRun, Solution } from "./FaultTalkRun";
import { callForm, emptySlip, type Priority, placeOf, type Slip, sameAgain } from "./slip";

type Props = { card: CallerCard; slip: Slip; change: (slip: Slip) => void };

/** The call in hand: what it is about and where, then what comes of it. Keys do everything. */
export function CallSlip({ card, slip, change }: Props) {
  const [taken, setTaken] = useState<TakenCall & { about: string }>();
  const [problem, setProblem] = useState<Problem>();
  const { data: choices } = useQuery(queries.choices);
  const { data: talks } = useQuery(queries.faultTalks);
  const openQuote = useOpenQuote();
  const { piece } = placeOf(card, slip.place);
  const kinds = choices?.kindsOfJob ?? [];
  const usual = kinds.find((kind) => kind.usualForCalls) ?? kinds[0];
  const kindOfJobId = slip.kindOfJobId ?? usual?.id;
  // Until it is known which kinds have a talk, any may have one: whoever presses the key early is not passed over.
  const hasTalk =
    talks === undefined
      ? piece?.equipmentKindId != null
      : talks.some((talk) => talk.equipmentKindId === piece?.equipmentKindId && talk.questions > 0);

  const take = useAct(
    (outcome: CallOf["outcome"], key) =>
      answer(
        client.POST("/api/calls", {
          params: withKey(key),
          body: callForm(card, slip, outcome, kindOfJobId),
        }),
      ),
    {
      done: (call) => {
        setProblem(undefined);
        setTaken({ ...call, about: slip.about });
        change({ ...emptySlip, place: slip.place });
        if (call.quoteId) {
          void openQuote(call.quoteId);
        }
      },
      refused: (refusal) => {
        setProblem(refusal);
        if (refusal.at("/about")) {
          change({ ...slip, step: "about" });
        }
      },
    },
  );

  const go = (key: string) => {
    if (key === "f" && hasTalk) {
      change({ ...slip, step: "talk" });
    } else if (key === "j") {
      change({ ...slip, step: "job" });
    } else if (key === "q") {
      take.run("quote");
    } else if (key === "t") {
      change({ ...slip, step: "to_do" });
    } else if (key === "n") {
      take.run("noted");
    } else if (key === "l" && card.lastVisits[0]) {
      change(card.lastVisits.length === 1 ? sameAgain(slip, card.lastVisits[0]) : { ...slip, step: "last" });
    } else {
      return false;
    }
    return true;
  };

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        event.target.closest("input, textarea, [role=combobox], .ant-modal, .ant-select-dropdown") !== null;
      if (event.ctrlKey || event.metaKey || event.altKey || typing) {
        return;
      }
      if (slip.step === "last" && /^[1-6]$/.test(event.key)) {
        const visit = card.lastVisits[Number(event.key) - 1];
        if (visit) {
          event.preventDefault();
          change(sameAgain(slip, visit));
        }
      } else if (event.key === "Escape" && slip.step !== "about") {
        event.preventDefault();
        change({ ...slip, step: slip.step === "what" ? "about" : "what" });
      } else if (slip.step !== "talk" && slip.step !== "about" && go(event.key.toLowerCase())) {
        event.preventDefault();
      }
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  });

  return (
    <aside className={styles.slip} aria-label="The call" data-slip>
      <h2>The call</h2>
      {taken && <Taken call={taken} card={card} />}
      <About card={card} slip={slip} change={change} problem={problem} />
      {piece && (
        <div className="small" data-warranty>
          <span className="soft">Warranty:</span> <Warranties piece={piece} />
        </div>
      )}
      {(slip.step === "about" || slip.step === "what") && (
        <Outcomes slip={slip} hasTalk={hasTalk} hasLast={card.lastVisits.length > 0} go={go} />
      )}
      {slip.step === "last" && <LastJobs card={card} slip={slip} change={change} />}
      {slip.step === "talk" && piece?.equipmentKindId && (
        <FaultTalkRun
          kindId={piece.equipmentKindId}
          leave={() => change({ ...slip, step: "what" })}
          ended={({ answer: end, talk }) => change(afterTalk(slip, end, talk))}
        />
      )}
      {slip.step === "solved" && (
        <Solution
          solution={slip.solution}
          running={take.running}
          helped={() => take.run("solved")}
          didNotHelp={() => change({ ...slip, step: "job" })}
        />
      )}
      {slip.step === "job" && (
        <JobFields
          card={card}
          slip={slip}
          change={change}
          kindOfJobId={kindOfJobId}
          problem={problem}
          running={take.running}
          make={() => take.run("job")}
        />
      )}
      {slip.step === "to_do" && (
        <ToDoFields
          slip={slip}
          change={change}
          problem={problem}
          running={take.running}
          make={() => take.run("to_do")}
        />
      )}
      {problem?.faults.every((fault) => fault.pointer === "") && <p className="fault">{problem.message}</p>}
    </aside>
  );
}

const afterTalk = (
  slip: Slip,
  end: {
    text?: string | null;
    leadsTo: TypedAnswer["leadsTo"];
    solution?: string | null;
    faultCode?: string | null;
    priority?: Priority | null;
    expected?: string | null;
  },
  talk: string,
): Slip => ({
  ...slip,
  about: slip.about || talk.split("\n").at(-1) || "",
  talk,
  faultCode: end.faultCode ?? undefined,
  solution: end.solution ?? "",
  priority: end.priority ?? slip.priority,
  expected: end.expected ?? slip.expected,
  step: end.leadsTo === "solved" ? "solved" : "job",
});

/** What came of the call that was just taken. */
function Taken({ call, card }: { call: TakenCall & { about: string }; card: CallerCard }) {
  const next = useRef<HTMLAnchorElement>(null);
  const { data: own } = useQuery({ ...queries.ownHolds, enabled: call.jobId != null });
  // The caller is still there, and asks when.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each call
  useEffect(() => next.current?.focus(), [call.id]);
  return (
    <p className={styles.taken} role="status">
      {call.jobId && (
        <>
          <Link to={`/jobs/${call.jobNumber}`}>Job {call.jobNumber}</Link> made
          {call.respondBy && `: somebody there by ${moment(call.respondBy)}`}.{" "}
          <Link ref={next} to={`/planner?job=${call.jobNumber}`}>
            Find a time
          </Link>
          {own?.holds.map((held) => (
            <span key={held.holdId}>
              {" "}
              or{" "}
              <Link to={`/planner/${held.day}?job=${call.jobNumber}`}>
                give it {weekday(held.day)} {time(held.start)} with {held.person}, which you hold
              </Link>
            </span>
          ))}
        </>
      )}
      {call.toDoId && <>To-do made for {card.name}.</>}
      {call.outcome === "noted" && <>Noted.</>}
      {call.outcome === "solved" && <>Kept as solved on the phone.</>}{" "}
      <span className="soft">{call.about}</span>
    </p>
  );
}

function About({ card, slip, change, problem }: Props & { problem: Problem | undefined }) {
  const place = useRef<{ focus: () => void }>(null);
  const [placesOpen, setPlacesOpen] = useState(false);
  const options = card.sites.map((site) => ({
    label: site.name,
    options: [
      { value: `site-${site.id}`, label: `${site.name}, ${site.address}` },
      ...site.equipment
        .filter((piece) => piece.removedOn == null)
        .map((piece) => ({
          value: `equipment-${piece.id}`,
          label: `${piece.model}, ${piece.serialNumber}${piece.position ? `, ${piece.position}` : ""}`,
        })),
    ],
  }));
  return (
    <>
      <label className="field">
        What is it about?
        <Input.TextArea
          autoFocus
          // What was begun earlier goes on at its end.
          onFocus={({ target }) => target.setSelectionRange(target.value.length, target.value.length)}
          autoSize={{ minRows: 2, maxRows: 6 }}
          value={slip.about}
          placeholder="in the caller's words; Enter goes on"
          onChange={(event) => change({ ...slip, about: event.target.value, step: "about" })}
          onKeyDown={(event) => {
            if (event.key === "Enter" && !event.shiftKey) {
              event.preventDefault();
              if (slip.place) {
                event.currentTarget.blur();
                change({ ...slip, step: "what" });
              } else {
                place.current?.focus();
                setPlacesOpen(true);
              }
            } else if (event.key === "Escape") {
              event.stopPropagation();
              event.currentTarget.blur();
              change({ ...slip, step: "what" });
            }
          }}
        />
      </label>
      <FaultAt problem={problem} pointer="/about" />
      <div className="field">
        <span>At</span>
        <Select
          ref={place as never}
          aria-label="Where it is"
          open={placesOpen}
          onOpenChange={setPlacesOpen}
          showSearch={{ optionFilterProp: "label" }}
          allowClear
          value={slip.place || undefined}
          placeholder="site or piece of equipment"
          notFoundContent="No such site or piece here"
          onChange={(chosen?: string) => change({ ...slip, place: chosen ?? "", step: "what" })}
          onSelect={() => (document.activeElement as HTMLElement | null)?.blur()}
          options={options}
          popupMatchSelectWidth={false}
        />
      </div>
      <FaultAt problem={problem} pointer="/siteId" />
      <FaultAt problem={problem} pointer="/equipmentId" />
    </>
  );
}

function FaultAt({ problem, pointer }: { problem: Problem | undefined; pointer: string }) {
  const text = problem?.at(pointer);
  return text ? (
    <p className="fault" role="alert">
      {text}
    </p>
  ) : null;
}

function Outcomes({
  slip,
  hasTalk,
  hasLast,
  go,
}: {
  slip: Slip;
  hasTalk: boolean;
  hasLast: boolean;
  go: (key: string) => boolean;
}) {
  const first = useRef<HTMLDivElement>(null);
  // Whoever wants the same again has nothing to be asked: Enter makes the quote.
  const same = slip.like !== undefined;
  const moment = `${slip.step} ${same}`;
  useEffect(() => {
    if (moment.startsWith("what")) {
      first.current?.querySelector("button")?.focus();
    }
  }, [moment]);
  const talk = hasTalk ? [{ key: "f", label: "Ask about the fault" }] : [];
  const job = { key: "j", label: "Job straight away" };
  const outcomes = [
    ...(same
      ? [{ key: "q", label: "Quote, same lines as last time" }, job, ...talk]
      : [...talk, job, { key: "q", label: "Quote" }]),
    { key: "t", label: "To-do for somebody" },
    ...(hasLast ? [{ key: "l", label: "As last time…" }] : []),
    { key: "n", label: "Only note it" },
  ];
  return (
    <div className={styles.outcomes} ref={first} data-outcomes>
      {outcomes.map((outcome) => (
        <button key={outcome.key} type="button" onClick={() => go(outcome.key)}>
          <kbd>{outcome.key.toUpperCase()}</kbd> {outcome.label}
        </button>
      ))}
    </div>
  );
}

function LastJobs({ card, slip, change }: Props) {
  return (
    <ol className={styles.answers} data-answers>
      {card.lastVisits.map((visit, index) => (
        <li key={visit.id}>
          <button type="button" onClick={() => change(sameAgain(slip, visit))}>
            <kbd>{index + 1}</kbd> {visit.title}{" "}
            <span className="soft small">{visit.day && day(visit.day)}</span>
          </button>
        </li>
      ))}
    </ol>
  );
}

function JobFields({
  card,
  slip,
  change,
  kindOfJobId,
  problem,
  running,
  make,
}: Props & {
  kindOfJobId: number | undefined;
  problem: Problem | undefined;
  running: boolean;
  make: () => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const { data: promises } = useQuery(queries.promises(card.id));
  const kinds = choices?.kindsOfJob ?? [];
  const kind = kinds.find((one) => one.id === kindOfJobId);
  return (
    <form
      className={styles.form}
      data-slip-form
      aria-label="Job from the call"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <div className="field">
        <span>Kind of job</span>
        <Select
          aria-label="Kind of job"
          value={kindOfJobId}
          onChange={(chosen) => change({ ...slip, kindOfJobId: chosen })}
          options={kinds.map((one) => ({ value: one.id, label: one.name }))}
        />
        <FaultAt problem={problem} pointer="/job/kindOfJobId" />
      </div>
      <div className="field">
        <span>How pressing</span>
        <Select
          aria-label="How pressing"
          value={slip.priority}
          onChange={(priority) => change({ ...slip, priority })}
          options={(promises ?? []).map((promise) => ({
            value: promise.priority,
            label: `${words(promise.priority)}: there by ${moment(promise.by)}`,
          }))}
        />
        <FaultAt problem={problem} pointer="/job/priority" />
      </div>
      <label className="field">
        Expected length
        <Input
          value={slip.expected}
          placeholder={
            kind
              ? `${Math.floor(kind.defaultMinutes / 60)}:${String(kind.defaultMinutes % 60).padStart(2, "0")}`
              : ""
          }
          onChange={(event) => change({ ...slip, expected: event.target.value })}
        />
        <FaultAt problem={problem} pointer="/job/expected" />
      </label>
      <div className="actions">
        <Button type="primary" htmlType="submit" autoFocus loading={running}>
          Make the job <span aria-hidden="true">⏎</span>
        </Button>
        <Button onClick={() => change({ ...slip, step: "what" })}>Back</Button>
      </div>
    </form>
  );
}

function ToDoFields({
  slip,
  change,
  problem,
  running,
  make,
}: {
  slip: Slip;
  change: (slip: Slip) => void;
  problem: Problem | undefined;
  running: boolean;
  make: () => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const { person } = useSession();
  return (
    <form
      className={styles.form}
      data-slip-form
      aria-label="To-do from the call"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <div className="field">
        <span>For</span>
        <Select
          aria-label="For whom"
          value={slip.forPersonId ?? person.id}
          onChange={(forPersonId) => change({ ...slip, forPersonId })}
          options={(choices?.officePeople ?? []).map((one) => ({ value: one.id, label: one.name }))}
        />
        <FaultAt problem={problem} pointer="/forPersonId" />
      </div>
      <label className="field">
        By
        <Input
          autoFocus
          value={slip.due}
          placeholder="today, fri, 3 dec"
          onChange={(event) => change({ ...slip, due: event.target.value })}
        />
        <FaultAt problem={problem} pointer="/due" />
      </label>
      <div className="actions">
        <Button type="primary" htmlType="submit" loading={running}>
          Make the to-do <span aria-hidden="true">⏎</span>
        </Button>
        <Button onClick={() => change({ ...slip, step: "what" })}>Back</Button>
      </div>
    </form>
  );
}
