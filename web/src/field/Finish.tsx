import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import type { PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Signature } from "../kit/Signature";
import { useDraft } from "../kit/useKept";
import { useChecklists } from "./Checklists";
import { Dictate, joined } from "./Dictate";
import { PhotoButton } from "./Photos";
import { useKeptPhotos } from "./photoBox";
import { SIGN_HERE } from "./signHere";

export type Outcome = NonNullable<PocketVisit["outcome"]>;

/** What came of a visit, in the technician's words. */
export const OUTCOMES: Record<Outcome, string> = {
  done: "Done",
  come_again: "Come again",
  not_let_in: "Could not get in",
  declined: "Customer declined",
};

type Said = {
  note: string;
  causeCode?: string;
  outcome: Outcome;
  reason?: string;
  signed?: { name: string; signature: string; drawn: boolean; rating?: number; words: string };
  signsLater: boolean;
};

type Draft = Pick<Said, "note" | "outcome"> & {
  reason: string;
  cause?: string;
  name: string;
  drawing?: string;
  rating?: number;
  ratingWords: string;
  later: boolean;
};

const RATINGS = [1, 2, 3, 4, 5];

/** The end of a visit: what came of it, why it was wrong, what was done. */
export function Finish({
  visit,
  submit,
  running,
  goThrough,
  back,
}: {
  visit: PocketVisit;
  /** It is forgotten once it is written down. */
  submit: (said: Said, forget: () => void) => void;
  running: boolean;
  /** Opens the checklists. */
  goThrough: () => void;
  back: () => void;
}) {
  const { draft, change, forget } = useDraft<Draft>(`finish ${visit.visitId}`, {
    outcome: "done",
    note: visit.note,
    reason: "",
    cause: visit.causeCode ?? undefined,
    name: "",
    ratingWords: "",
    later: false,
  });
  const { outcome, note, reason, cause, name, drawing, rating, ratingWords, later } = draft;
  const done = outcome === "done";
  const somebody = name.trim() !== "" && outcome !== "not_let_in";
  const signsLater = later && !somebody && outcome !== "not_let_in";
  return (
    <form
      className="form"
      aria-label="Finish"
      onSubmit={(event) => {
        event.preventDefault();
        submit(
          {
            note,
            causeCode: cause,
            outcome,
            reason: done ? undefined : reason,
            signed: somebody
              ? { name, signature: drawing ?? name, drawn: drawing !== undefined, rating, words: ratingWords }
              : undefined,
            signsLater,
          },
          forget,
        );
      }}
    >
      {done && <Wanted visit={visit} goThrough={goThrough} />}
      <NotTicked visit={visit} />
      <Choices
        legend="What came of it?"
        choices={Object.entries(OUTCOMES).map(([code, name]) => ({ code: code as Outcome, name }))}
        chosen={outcome}
        choose={(code) => change({ outcome: code })}
      />
      {!done && (
        <label>
          Why? The office reads it.
          <Input
            className="tall"
            value={reason}
            onChange={(event) => change({ reason: event.target.value })}
          />
        </label>
      )}
      {done && visit.causes.length > 0 && (
        <Choices
          legend={
            visit.beforeFinish.includes("cause") ? "Why was it wrong? It is asked for" : "Why was it wrong?"
          }
          choices={visit.causes}
          chosen={cause}
          choose={(code) => change({ cause: code === cause ? undefined : code })}
        />
      )}
      <label>
        What was done
        <Input.TextArea
          autoSize={{ minRows: 3 }}
          value={note}
          onChange={(event) => change({ note: event.target.value })}
        />
      </label>
      <Dictate of="the note" add={(said) => change((now) => ({ note: joined(now.note, said) }))} />
      {outcome !== "not_let_in" && (
        <label>
          {done && visit.beforeFinish.includes("signature")
            ? "Who signs? It is asked for"
            : "Who signs? Empty where nobody is there"}
          <Input
            className="tall"
            autoComplete="off"
            value={name}
            onChange={(event) => change({ name: event.target.value })}
          />
        </label>
      )}
      {somebody && (
        <>
          <Signature drawing={drawing} draw={(drawn) => change({ drawing: drawn })} words={SIGN_HERE} />
          <Choices
            legend="How did they find it, from 1 to 5?"
            choices={RATINGS.map((code) => ({ code, name: String(code) }))}
            chosen={rating}
            choose={(code) => change({ rating: code === rating ? undefined : code })}
          />
          {rating && (
            <label>
              In their words
              <Input
                className="tall"
                value={ratingWords}
                onChange={(event) => change({ ratingWords: event.target.value })}
              />
            </label>
          )}
        </>
      )}
      {!somebody && outcome !== "not_let_in" && visit.customerReachable && (
        <Button
          className="tall"
          type={later ? "primary" : "default"}
          aria-pressed={later}
          onClick={() => change({ later: !later })}
        >
          {later ? "They sign later: the link goes to them" : "Let them sign later"}
        </Button>
      )}
      <Copy visit={visit} />
      <Button type="primary" className="big" htmlType="submit" loading={running}>
        {done ? "Finish this visit" : `Finish: ${OUTCOMES[outcome].toLowerCase()}`}
      </Button>
      <Button className="tall" onClick={back}>
        Not finished yet
      </Button>
    </form>
  );
}

/** Who gets the report without another tap. */
const Copy = ({ visit }: { visit: PocketVisit }) =>
  visit.reportCopy !== "none" &&
  visit.reportGoesTo !== "" && (
    <p className="soft">
      A report {visit.reportCopy === "with_prices" ? "with prices" : "without prices"} goes to{" "}
      {visit.reportGoesTo}.
    </p>
  );

/** What must be there first, with a tap to it. */
const Wanted = ({ visit, goThrough }: { visit: PocketVisit; goThrough: () => void }) => (
  <>
    <WantedAnswers visit={visit} goThrough={goThrough} />
    <WantedPhoto visit={visit} />
  </>
);

function WantedAnswers({ visit, goThrough }: { visit: PocketVisit; goThrough: () => void }) {
  const { missing } = useChecklists(visit);
  return (
    missing.length > 0 && (
      <div className="needs" role="status">
        Not answered yet: {missing.map((item) => item.question).join("; ")}.
        <Button className="tall" block onClick={goThrough}>
          Go through the checklist
        </Button>
      </div>
    )
  );
}

function WantedPhoto({ visit }: { visit: PocketVisit }) {
  const { data } = useQuery(queries.photosOnSite(visit.visitId));
  const kept = useKeptPhotos().some((photo) => photo.visitId === visit.visitId && !photo.refusal);
  if (!visit.beforeFinish.includes("photo") || kept || (data && data.photos.length > 0)) {
    return null;
  }
  return (
    <div className="needs" role="status">
      Work of this kind is not finished without a photo. <PhotoButton visitId={visit.visitId} />
    </div>
  );
}

function Choices<Code extends string | number>({
  legend,
  choices,
  chosen,
  choose,
}: {
  legend: string;
  choices: { code: Code; name: string }[];
  chosen: Code | undefined;
  choose: (code: Code) => void;
}) {
  return (
    <fieldset className="causes">
      <legend>{legend}</legend>
      {choices.map((one) => (
        <Button
          key={one.code}
          className="tall"
          type={one.code === chosen ? "primary" : "default"}
          aria-pressed={one.code === chosen}
          onClick={() => choose(one.code)}
        >
          {one.name}
        </Button>
      ))}
    </fieldset>
  );
}

/** What is still to be done of the promise, so that nobody goes before it is. */
function NotTicked({ visit }: { visit: PocketVisit }) {
  const open = visit.work.filter((line) => !line.doneAt);
  return open.length === 0 || open.length === visit.work.length ? null : (
    <p className="needs">Not ticked off: {open.map((line) => line.description).join(", ")}</p>
  );
}
