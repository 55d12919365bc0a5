import { useQuery } from "@tanstack/react-query";
import { Button, Progress } from "antd";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { answer, client, Problem } from "../api/client";
import type { ImportView } from "../api/generated/schema";
import { queries } from "../api/queries";
import { words } from "../format";
import lines from "../kit/Lines.module.css";
import { Section } from "../kit/Section";
import { Select } from "../kit/Select";
import sheet from "../kit/Sheet.module.css";
import { colours } from "../kit/tokens";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import styles from "./ImportPage.module.css";

const KINDS: ImportView["kind"][] = ["customers", "sites", "contacts", "equipment", "price_list"];
const LARGEST_FILE = 50_000_000;
/** What goes on with a list that is not through. */
const RUNNING: Partial<Record<ImportView["state"], string>> = {
  trying: "Trying",
  looking: "Looking at all rows",
  taking: "Taking in",
};

/** A list from another program: choose it, say what its columns are, try it, take it in. */
export default function ImportPage() {
  const id = Number(useParams().id ?? 0);
  useTitle("Import a list");
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label="Import a list">
      <header className={sheet.head}>
        <div className={sheet.number}>Import</div>
        <div>
          <h1>A list from another program</h1>
          <div className="small soft">
            CSV or XLSX. Nothing is changed before you have seen what would be; a row that cannot be taken
            keeps the whole list out. The same list again makes no doubles.
          </div>
        </div>
      </header>
      {id > 0 ? <Import key={id} id={id} /> : <Choose />}
    </article>
  );
}

function Choose() {
  const [kind, setKind] = useState<ImportView["kind"]>("customers");
  const [encoding, setEncoding] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const [reading, setReading] = useState(false);
  const [chosen, setChosen] = useState<File>();
  const navigate = useNavigate();

  async function upload(file: File, letters: string) {
    setChosen(file);
    setProblem(undefined);
    if (file.size > LARGEST_FILE) {
      setProblem(
        new Problem(413, {
          detail:
            "This file has more than 50 MB. Keep only the columns that are needed, or cut the list in two.",
        }),
      );
      return;
    }
    setReading(true);
    try {
      const made = await answer(
        client.POST("/api/imports", {
          params: { query: { kind, fileName: file.name, encoding: letters } },
          headers: { "Content-Type": "application/octet-stream" },
          body: "",
          bodySerializer: () => file,
        }),
      );
      navigate(`/imports/${made.id}`);
    } catch (refused) {
      setProblem(refused as Problem);
    } finally {
      setReading(false);
    }
  }

  return (
    <Section name="File">
      <div className={styles.choice}>
        <div className="field">
          <span>What the list is about</span>
          <Select
            aria-label="What the list is about"
            value={kind}
            onChange={setKind}
            options={KINDS.map((value) => ({ value, label: words(value) }))}
          />
        </div>
        <label className="file-button">
          {reading ? "Reading…" : "Choose the file"}
          <input
            type="file"
            accept=".csv,.txt,.xlsx"
            className="visually-hidden"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) {
                void upload(file, encoding);
              }
            }}
          />
        </label>
      </div>
      {problem && (
        <p className="fault" role="alert">
          {problem.message}
        </p>
      )}
      {problem?.rule === "WRONG_ENCODING" && chosen && (
        <div className="field" style={{ maxWidth: 320 }}>
          <span>How its letters are written</span>
          <Select
            aria-label="How its letters are written"
            value={encoding || undefined}
            placeholder="choose"
            onChange={(letters: string) => {
              setEncoding(letters);
              void upload(chosen, letters);
            }}
            options={[
              { value: "windows-1252", label: "Windows-1252 (most older programs)" },
              { value: "iso-8859-15", label: "ISO 8859-15" },
            ]}
          />
        </div>
      )}
    </Section>
  );
}

function Import({ id }: { id: number }) {
  const { data: view, error, refetch } = useQuery(queries.import(id));
  if (error && !view) {
    return <p className="pad fault">{error.message}</p>;
  }
  if (!view) {
    return <div aria-busy="true" />;
  }
  const running = RUNNING[view.state];
  return running ? (
    <Section name={running}>
      <Progress
        percent={Math.round((100 * view.rowsDone) / Math.max(view.rowCount, 1))}
        strokeColor={colours.done}
      />
      <span className="soft">
        {view.rowsDone} of {view.rowCount} rows
      </span>
    </Section>
  ) : (
    <Mapping key={view.state} view={view} again={() => void refetch()} />
  );
}

function Mapping({ view, again }: { view: ImportView; again: () => void }) {
  const [mapping, setMapping] = useState(view.mapping);
  const [problem, setProblem] = useState<Problem>();
  const navigate = useNavigate();
  const run = useAct(
    (take: boolean) =>
      answer(
        client.POST(take ? "/api/imports/{id}/take" : "/api/imports/{id}/try", {
          params: { path: { id: view.id } },
          body: { mapping },
        }),
      ),
    { done: again, refused: setProblem, said: null },
  );
  const taken = view.state === "taken";
  const same = mapping.every((column, at) => column === view.mapping[at]);
  return (
    <>
      <Section name="Columns" aside={view.fileName}>
        <table className={`${lines.lines} ${styles.columns}`}>
          <thead>
            <tr>
              <th>in the file</th>
              <th>first rows</th>
              <th>stands for</th>
            </tr>
          </thead>
          <tbody>
            {view.headings.map((heading, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two columns may have one heading
              <tr key={at}>
                <td>{heading || <span className="soft">column {at + 1}</span>}</td>
                <td className="soft small">
                  {view.sample
                    .map((row) => row[at])
                    .filter(Boolean)
                    .join(" · ")}
                </td>
                <td>
                  <Select
                    aria-label={`What ${heading || `column ${at + 1}`} stands for`}
                    value={mapping[at]}
                    disabled={taken}
                    style={{ width: 210 }}
                    onChange={(column) => setMapping(mapping.with(at, column))}
                    options={[
                      { value: "", label: "nothing, leave it out" },
                      ...view.columns.map((column) => ({
                        value: column.name,
                        label: column.needed ? `${column.label} (needed)` : column.label,
                      })),
                    ]}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Section>
      <Section name="Rows" aside={`${view.rowCount}`}>
        {(view.state === "tried" || taken) && <Outcome view={view} />}
        {view.problem && <p className="fault">{view.problem}</p>}
        {problem?.faults.map((fault) => (
          <p key={fault.pointer} className="fault" role="alert">
            {fault.detail}
          </p>
        ))}
        <div className="actions">
          {!taken && (
            <>
              <Button
                type={view.state === "tried" && same ? "default" : "primary"}
                onClick={() => run.run(false)}
              >
                Try it
              </Button>
              <Button
                type={view.state === "tried" && same && view.faulty === 0 ? "primary" : "default"}
                disabled={view.state !== "tried" || !same || view.faulty > 0}
                onClick={() => run.run(true)}
              >
                Take in {view.rowCount} rows
              </Button>
            </>
          )}
          <Button onClick={() => navigate("/imports")}>
            {taken ? "Another list" : "Choose another file"}
          </Button>
        </div>
      </Section>
      {view.faulty > 0 && <Faults view={view} />}
    </>
  );
}

function Outcome({ view }: { view: ImportView }) {
  return (
    <p style={{ margin: "0 0 8px" }} role="status">
      {view.state === "taken" ? "Taken in: " : "Would be: "}
      <b>{view.added}</b> added, <b>{view.changed}</b> changed, {view.unchanged} as they are
      {view.faulty > 0 && (
        <span className="needs">
          , {view.faulty} {view.faulty === 1 ? "row" : "rows"} to mend
        </span>
      )}
      .
    </p>
  );
}

function Faults({ view }: { view: ImportView }) {
  return (
    <Section
      name="To mend"
      aside={
        <a href={`/api/imports/${view.id}/faults/file`} download>
          CSV
        </a>
      }
    >
      <table className={lines.lines}>
        <tbody>
          {view.faults.map((fault) => (
            <tr key={`${fault.row} ${fault.column} ${fault.message}`}>
              <td style={{ whiteSpace: "nowrap" }}>row {fault.row}</td>
              <td className="soft">{words(fault.column)}</td>
              <td>{fault.message}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {view.faults.length >= 200 && <p className="soft">The file holds the rest.</p>}
    </Section>
  );
}
