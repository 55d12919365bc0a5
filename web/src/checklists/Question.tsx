import { Checkbox, Input } from "antd";
import type { Problem } from "../api/client";
import type { TypedItem } from "../api/generated/schema";
import { headline } from "../format";
import { Select } from "../kit/Select";
import sheet from "../kit/Sheet.module.css";
import styles from "./ChecklistEditorPage.module.css";
import { ASKS } from "./words";

type Asks = NonNullable<TypedItem["asks"]>;

/** What an answer of a kind needs, and nothing of another. */
const BLANK = { choices: [], wrong: [], unit: "", least: "", most: "", raisesToDo: false };

/** One question of a checklist as the office writes it. */
export function Question({
  item,
  index,
  problem,
  put,
  moveUp,
  remove,
}: {
  item: TypedItem;
  index: number;
  problem: Problem | undefined;
  put: (item: TypedItem) => void;
  moveUp: () => void;
  remove: () => void;
}) {
  const name = `question ${index + 1}`;
  const at = `/items/${index}/`;
  const faults = (problem?.faults ?? []).filter((fault) => fault.pointer.startsWith(at));
  const limited = (item.wrong ?? []).length > 0 || Boolean(item.least) || Boolean(item.most);
  return (
    <section className={sheet.section} aria-label={`Question ${index + 1}`}>
      <div className={sheet.margin}>
        <h2>{index + 1}</h2>
      </div>
      <div>
        <div className={styles.line}>
          <Input
            aria-label={`Text of ${name}`}
            placeholder="What is looked at or measured"
            value={item.question ?? ""}
            onChange={(event) => put({ ...item, question: event.target.value })}
          />
          <Select
            aria-label={`How ${name} is answered`}
            value={item.asks ?? "yes_no"}
            onChange={(asks: Asks) => put({ ...item, ...BLANK, asks })}
            options={(Object.keys(ASKS) as Asks[]).map((asks) => ({ value: asks, label: ASKS[asks] }))}
          />
          <button
            type="button"
            className="icon-button"
            aria-label={`Move ${name} up`}
            disabled={index === 0}
            onClick={moveUp}
          >
            ↑
          </button>
          <button type="button" className="icon-button" aria-label={`Remove ${name}`} onClick={remove}>
            ×
          </button>
        </div>
        <div className={styles.details}>
          <Details item={item} name={name} put={put} />
          <Checkbox
            checked={item.required}
            onChange={(event) => put({ ...item, required: event.target.checked })}
          >
            asked for before the end
          </Checkbox>
          {(limited || item.raisesToDo) && (
            <Checkbox
              checked={item.raisesToDo}
              onChange={(event) => put({ ...item, raisesToDo: event.target.checked })}
            >
              out of limits, the office hears of it
            </Checkbox>
          )}
        </div>
        {faults.map((fault) => (
          <p key={fault.pointer + fault.detail} className="fault" role="alert">
            {fault.detail}
          </p>
        ))}
      </div>
    </section>
  );
}

function Details({ item, name, put }: { item: TypedItem; name: string; put: (item: TypedItem) => void }) {
  if (item.asks === "measurement") {
    return (
      <>
        <label className={styles.limit}>
          at least
          <Input
            aria-label={`Least of ${name}`}
            value={item.least ?? ""}
            onChange={(event) => put({ ...item, least: event.target.value })}
          />
        </label>
        <label className={styles.limit}>
          at most
          <Input
            aria-label={`Most of ${name}`}
            value={item.most ?? ""}
            onChange={(event) => put({ ...item, most: event.target.value })}
          />
        </label>
        <label className={styles.limit}>
          unit
          <Input
            aria-label={`Unit of ${name}`}
            value={item.unit ?? ""}
            onChange={(event) => put({ ...item, unit: event.target.value })}
          />
        </label>
      </>
    );
  }
  if (item.asks !== "choice" && item.asks !== "yes_no") {
    return null;
  }
  const answers = item.asks === "yes_no" ? ["yes", "no"] : (item.choices ?? []);
  return (
    <>
      {item.asks === "choice" && (
        <Select
          className={styles.choices}
          mode="tags"
          open={false}
          suffixIcon={null}
          tokenSeparators={[",", ";"]}
          aria-label={`Answers to ${name}`}
          placeholder="good, worn, broken"
          value={item.choices ?? []}
          onChange={(choices: string[]) =>
            put({ ...item, choices, wrong: item.wrong?.filter((word) => choices.includes(word)) })
          }
        />
      )}
      {answers.length > 0 && (
        <Select
          className={styles.choices}
          mode="multiple"
          allowClear
          aria-label={`Out of limits of ${name}`}
          placeholder="none is out of limits"
          value={item.wrong ?? []}
          onChange={(wrong: string[]) =>
            put({ ...item, wrong, raisesToDo: item.raisesToDo && wrong.length > 0 })
          }
          options={answers.map((one) => ({ value: one, label: `${headline(one)} is out of limits` }))}
        />
      )}
    </>
  );
}
