import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input } from "antd";
import { useEffect, useState } from "react";
import { NavLink, useNavigate, useParams } from "react-router";
import { answer, client, type Problem } from "../api/client";
import type { ChecklistOfKind, ChecklistSheet, TypedItem } from "../api/generated/schema";
import { queries } from "../api/queries";
import { besideStyles } from "../kit/Beside";
import { Overtaken } from "../kit/Overtaken";
import { Select } from "../kit/Select";
import sheet from "../kit/Sheet.module.css";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { useTyped } from "../kit/useTyped";
import { useMay } from "../people/useMay";
import styles from "./ChecklistEditorPage.module.css";
import { Question } from "./Question";

const NEW: ChecklistSheet = {
  id: 0,
  version: 0,
  name: "",
  kindOfJobId: null,
  equipmentKindId: null,
  active: true,
  edition: 0,
  items: [],
};

const QUESTION: TypedItem = {
  question: "",
  asks: "yes_no",
  choices: [],
  wrong: ["no"],
  unit: "",
  least: "",
  most: "",
  required: true,
  raisesToDo: false,
};

/** The checklists of the office: what is gone through on which work. */
export default function ChecklistEditorPage() {
  const { id } = useParams();
  const { data: lists } = useQuery(queries.checklists);
  const { data: list, error } = useQuery({ ...queries.checklist(Number(id)), enabled: Number(id) > 0 });
  useTitle("Checklists");
  const shown = id === "new" ? NEW : list;
  return (
    <div className={besideStyles.beside}>
      <section className={besideStyles.list} aria-label="Checklists">
        <div className={besideStyles.head}>
          <div className={besideStyles.line}>
            <h2>Checklists</h2>
            <NavLink to="/checklists/new">New checklist</NavLink>
          </div>
        </div>
        <div className={besideStyles.rows}>
          {lists?.map((one) => (
            <NavLink key={one.id} className={besideStyles.link} to={`/checklists/${one.id}`}>
              <span>{one.name}</span>
              <span className="soft small">{about(one)}</span>
            </NavLink>
          ))}
          {lists?.length === 0 && (
            <p className="pad soft">
              None yet. A new checklist says what is gone through and measured on a kind of work, and nobody
              finishes such a visit without it.
            </p>
          )}
        </div>
      </section>
      <div className={sheet.sheet}>
        {error && id !== "new" && <p className="pad fault">{error.message}</p>}
        {!id && <p className="pad soft">Choose a checklist, or begin a new one.</p>}
        {shown && <Editor key={id} list={shown} />}
      </div>
    </div>
  );
}

const about = ({ kindOfJob, equipmentKind, questions, active }: ChecklistOfKind) =>
  [
    [kindOfJob, equipmentKind].filter(Boolean).join(", "),
    questions === 1 ? "1 question" : `${questions} questions`,
    !active && "not in use",
  ]
    .filter(Boolean)
    .join(" · ");

function Editor({ list }: { list: ChecklistSheet }) {
  const { id, version, edition: _, ...stored } = list;
  const typed = useTyped({ version, draft: stored }, `checklist ${id}`);
  const { draft, change } = typed;
  const navigate = useNavigate();
  const editable = useMay("change_settings");
  const [problem, setProblem] = useState<Problem>();
  const { data: kinds } = useQuery(queries.checklistKinds);
  const save = useAct(
    () => {
      const body = { version: typed.version, ...draft };
      return id === 0
        ? answer(client.POST("/api/checklists", { body }))
        : answer(client.PUT("/api/checklists/{id}", { params: { path: { id } }, body }));
    },
    {
      done: (saved) => {
        typed.forget();
        setProblem(undefined);
        navigate(`/checklists/${saved.id}`, { replace: id === 0 });
      },
      refused: setProblem,
      said: (saved) => ({ text: `Saved: ${saved.name}.` }),
    },
  );
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => typed.dirty && event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [typed.dirty]);
  const put = (index: number, item: TypedItem) =>
    change({ items: draft.items.map((old, at) => (at === index ? item : old)) });
  const moveUp = (index: number) => {
    const items = [...draft.items];
    items.splice(index - 1, 0, ...items.splice(index, 1));
    change({ items });
  };
  const fault = (field: string) =>
    problem?.at(field) && (
      <p className="fault" role="alert">
        {problem.at(field)}
      </p>
    );
  return (
    <article aria-label={draft.name || "New checklist"}>
      <header className={sheet.head}>
        <div className={sheet.number}>Checklist</div>
        <div>
          <div className={sheet.titled}>
            <div>
              <h1>{draft.name || "New checklist"}</h1>
              <div className="small soft">
                Visits that have begun with it keep the questions they began with.
              </div>
            </div>
            {editable && (
              <div className="actions">
                <Button onClick={() => change({ items: [...draft.items, QUESTION] })}>Add question</Button>
                <Button
                  type="primary"
                  loading={save.running}
                  disabled={!typed.dirty}
                  onClick={() => save.run()}
                >
                  Save checklist
                </Button>
              </div>
            )}
          </div>
          {problem && problem.faults.length === 0 && <p className="fault">{problem.message}</p>}
          {fault("/items")}
          <div className={styles.kinds}>
            <label className={styles.named}>
              Name
              <Input value={draft.name} onChange={(event) => change({ name: event.target.value })} />
              {fault("/name")}
            </label>
            <label className={styles.named}>
              On jobs of the kind
              <Select
                allowClear
                placeholder="any"
                value={draft.kindOfJobId ?? undefined}
                onChange={(kind?: number) => change({ kindOfJobId: kind ?? null })}
                options={kinds?.kindsOfJob.map((kind) => ({ value: kind.id, label: kind.name }))}
              />
              {fault("/kindOfJobId")}
            </label>
            <label className={styles.named}>
              At equipment of the kind
              <Select
                allowClear
                placeholder="any"
                value={draft.equipmentKindId ?? undefined}
                onChange={(kind?: number) => change({ equipmentKindId: kind ?? null })}
                options={kinds?.equipmentKinds.map((kind) => ({ value: kind.id, label: kind.name }))}
              />
              {fault("/equipmentKindId")}
            </label>
            <Checkbox checked={draft.active} onChange={(event) => change({ active: event.target.checked })}>
              In use
            </Checkbox>
          </div>
        </div>
      </header>
      {!save.running && <Overtaken what="this checklist" typed={typed} />}
      {draft.items.map((item, index) => (
        <Question
          // biome-ignore lint/suspicious/noArrayIndexKey: a question has no other name while it is typed
          key={index}
          item={item}
          index={index}
          problem={problem}
          put={(changed) => put(index, changed)}
          moveUp={() => moveUp(index)}
          remove={() => change({ items: draft.items.filter((_, at) => at !== index) })}
        />
      ))}
      {draft.items.length === 0 && <p className="pad soft">It asks nothing yet. Add the first question.</p>}
    </article>
  );
}
