import { useQuery } from "@tanstack/react-query";
import { Input, Modal } from "antd";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { Hit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moved, useKeptInSight } from "../kit/KeyedList";
import { useKeys } from "../kit/useKeys";
import { findSections } from "../settings/sections";
import styles from "./FindField.module.css";

type Choice = { kind: string; title: string; detail: string; to: string };

const PLACES: Choice[] = [
  { kind: "go to", title: "Quoted", detail: "quotes without an answer", to: "/quoted" },
  { kind: "go to", title: "Won", detail: "jobs without a time", to: "/won" },
  { kind: "go to", title: "Booked", detail: "planned visits", to: "/booked" },
  { kind: "go to", title: "Worked", detail: "visits to check", to: "/worked" },
  { kind: "go to", title: "Checked", detail: "jobs to bill", to: "/checked" },
  { kind: "go to", title: "Billed", detail: "money to come", to: "/billed" },
  { kind: "go to", title: "Paid", detail: "what came in this month", to: "/paid" },
  { kind: "go to", title: "Journal", detail: "every entry in the books", to: "/books/journal" },
];
const MORE: Choice[] = [
  { kind: "go to", title: "Customers", detail: "everybody, or who owes", to: "/customers" },
  {
    kind: "go to",
    title: "Settings",
    detail: "what holds for the whole company",
    to: "/settings",
  },
  { kind: "go to", title: "Rounds", detail: "what comes again, and what of it is due", to: "/rounds" },
  { kind: "go to", title: "To-dos", detail: "yours and everybody's, overdue first", to: "/to-dos" },
  {
    kind: "go to",
    title: "Faults",
    detail: "what goes wrong, why, and what it costs",
    to: "/figures/faults",
  },
  {
    kind: "go to",
    title: "Quotes to follow up",
    detail: "no answer, lapsed, won and lost",
    to: "/quotes/follow-up",
  },
  { kind: "go to", title: "Mail stand-in", detail: "what the demo mailed", to: "/mail-stand-in" },
  { kind: "go to", title: "Import", detail: "a list from another program", to: "/imports" },
  { kind: "go to", title: "Checklists", detail: "what is gone through on site", to: "/checklists" },
  { kind: "go to", title: "Fault talks", detail: "what is asked on the phone", to: "/fault-talks" },
];
const NEW_QUOTE: Choice = {
  kind: "do",
  title: "New quote",
  detail: "for a customer's site",
  to: "/quotes/new",
};

/** Where a hit leads: a place or a piece of equipment to its customer's card, with the call about it. */
const address = (hit: Hit): string => {
  switch (hit.kind) {
    case "job":
      return `/jobs/${hit.number}`;
    case "quote":
      return `/quotes/${hit.number}`;
    case "agreement":
      return `/agreements/${hit.id}`;
    case "customer":
      return `/customers/${hit.id}`;
    default:
      return `/customers/${hit.customerId}?at=${hit.kind}-${hit.id}`;
  }
};

/** The one field: "/" or Ctrl+K opens it from anywhere; it finds people, places, things and documents, and goes anywhere. */
export function FindField({ canSell }: { canSell: boolean }) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  const { data: hits, isPlaceholderData } = useQuery(queries.find(typed));
  // The focus goes back to the button when it is left, and to the page when somebody goes there.
  const [gone, setGone] = useState(false);
  // Enter may come before the answer: then it opens the first hit as soon as there is one.
  const [hurried, setHurried] = useState(false);

  const begin = () => {
    setGone(false);
    setOpen(true);
  };
  useKeys({ "/": begin, "Control+k": begin });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.matches("input, textarea");
      if (open && !typing && event.key.length === 1 && !event.ctrlKey && !event.metaKey) {
        // Whoever types on without waiting for the field to appear loses no letter.
        event.preventDefault();
        setTyped((before) => before + event.key);
      }
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [open]);

  const wanted = typed.trim().toLowerCase();
  const actions = [...(canSell ? [NEW_QUOTE] : []), ...PLACES, ...MORE].filter((choice) =>
    `${choice.title} ${choice.detail}`.toLowerCase().includes(wanted),
  );
  const settings: Choice[] =
    wanted.length > 1
      ? findSections(wanted).map((section) => ({
          kind: "set",
          title: section.name,
          detail: "a setting",
          to: `/settings?find=${encodeURIComponent(wanted)}`,
        }))
      : [];
  const newCaller: Choice[] =
    canSell && wanted.length > 1
      ? [
          {
            kind: "do",
            title: "New caller",
            detail: `“${typed.trim()}”, not on record yet`,
            to: `/customers/new?said=${encodeURIComponent(typed.trim())}`,
          },
        ]
      : [];
  const found = wanted.length > 1 ? (hits ?? []) : [];
  const choices: Choice[] = [
    ...found.map((hit) => ({
      kind: hit.kind,
      title: hit.title,
      detail: hit.detail,
      to: address(hit),
    })),
    ...actions,
    ...settings,
    ...newCaller,
  ];

  const answered = wanted.length < 2 || (hits !== undefined && !isPlaceholderData);
  useEffect(() => {
    if (hurried && answered) {
      setHurried(false);
      go(choices[0]);
    }
  });

  const close = () => {
    setOpen(false);
    setTyped("");
    setAt(0);
  };
  const go = (choice: Choice | undefined) => {
    if (choice) {
      setGone(true);
      close();
      navigate(choice.to);
    }
  };

  return (
    <>
      <button type="button" className={styles.button} onClick={begin}>
        Find or do anything <kbd>/</kbd>
      </button>
      <Modal
        open={open}
        onCancel={close}
        footer={null}
        closable={false}
        width={620}
        style={{ top: 60 }}
        destroyOnHidden
        focusable={{ focusTriggerAfterClose: !gone }}
      >
        <Input
          autoFocus
          size="large"
          placeholder="Name, phone, street, serial, number of a document…"
          aria-label="Find"
          role="combobox"
          aria-expanded="true"
          aria-controls="find-hits"
          aria-autocomplete="list"
          aria-activedescendant={choices[at] && hitId(at)}
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            setAt(0);
            setHurried(false);
          }}
          onKeyDown={(event) => {
            if (event.key === "ArrowDown" || event.key === "ArrowUp") {
              event.preventDefault();
              setAt(moved(at, event.key === "ArrowDown" ? 1 : -1, choices.length));
            } else if (event.key === "Enter") {
              if (answered) {
                go(choices[at]);
              } else {
                setHurried(true);
              }
            }
          }}
        />
        <div className="visually-hidden" role="status">
          {answered && wanted.length > 1 && `${choices.length} found`}
        </div>
        <div className={styles.hits} id="find-hits" role="listbox" aria-label="Found">
          {choices.map((choice, index) => (
            <FoundHit
              key={`${choice.kind} ${choice.to} ${choice.title}`}
              choice={choice}
              place={index}
              on={index === at}
              first={choice.kind !== choices[index - 1]?.kind}
              go={() => go(choice)}
              point={() => setAt(index)}
            />
          ))}
        </div>
        {choices.length === 0 && (
          <p className="soft">Nothing found. Try part of the name, or the last digits of the number.</p>
        )}
      </Modal>
    </>
  );
}

const hitId = (place: number) => `find-hit-${place}`;

function FoundHit({
  choice,
  place,
  on,
  first,
  go,
  point,
}: {
  choice: Choice;
  place: number;
  on: boolean;
  /** The first of its kind, which is named once. */
  first: boolean;
  go: () => void;
  point: () => void;
}) {
  const element = useKeptInSight<HTMLDivElement>(on);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the field above moves and chooses by key
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays in the field, as the combobox pattern has it
    <div
      ref={element}
      id={hitId(place)}
      role="option"
      aria-selected={on}
      aria-label={[choice.kind, choice.title, choice.detail].join(", ")}
      className={styles.hit}
      onClick={go}
      onMouseMove={point}
    >
      <span>{first && choice.kind}</span>
      <span>
        {choice.title} <span className="soft small">{choice.detail}</span>
      </span>
    </div>
  );
}
