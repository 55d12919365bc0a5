import { Button, Input } from "antd";
import { answer, client, withKey } from "../api/client";
import type { MissingPart, PocketVisit } from "../api/generated/schema";
import { weekday } from "../format";
import { useAct } from "../kit/useAct";
import { useDraft } from "../kit/useKept";
import styles from "./MissingParts.module.css";
import { PhotoButton } from "./Photos";
import { useParts } from "./useCarried";
import { useTap } from "./useTap";

const MOST_OFFERED = 6;

/** What is said of it so far. */
type Draft = {
  typed: string;
  chosen?: { id: number; name: string };
  quantity: number;
  urgent: boolean;
  equipmentId?: number;
};

/** Notes what is missing, at once: whatever is known of it is enough, and nothing has to be. */
export function WantPart({ visit, back }: { visit: PocketVisit; back: () => void }) {
  const { draft, change, forget } = useDraft<Draft>(`part wanted ${visit.visitId}`, {
    typed: "",
    quantity: 1,
    urgent: false,
  });
  const { typed, chosen, quantity, urgent, equipmentId } = draft;
  const found = useParts(chosen ? "" : typed);
  const want = useTap({
    done: () => {
      forget();
      back();
    },
    said: "The office knows that it is wanted.",
  });
  return (
    <form
      className="form"
      aria-label="Part wanted"
      onSubmit={(event) => {
        event.preventDefault();
        want.run({
          step: "want_part",
          visitId: visit.visitId,
          form: {
            partId: chosen?.id,
            equipmentId,
            words: chosen ? "" : typed,
            quantity: String(quantity),
            urgent,
          },
          name: chosen?.name,
        });
      }}
    >
      <label>
        Which part?
        <Input
          className="tall"
          autoFocus
          allowClear
          placeholder="name, number, or what it looks like"
          value={chosen?.name ?? typed}
          onChange={(event) => change({ chosen: undefined, typed: event.target.value })}
        />
      </label>
      {typed !== "" &&
        !chosen &&
        found.slice(0, MOST_OFFERED).map((part) => (
          <Button
            key={part.id}
            className="tall"
            onClick={() => change({ chosen: { id: part.id, name: part.name } })}
          >
            {part.name}
          </Button>
        ))}
      <div className="pair">
        <span className="stepper">
          <Button aria-label="Fewer" onClick={() => change({ quantity: Math.max(1, quantity - 1) })}>
            −
          </Button>
          <output aria-label="How many" className={styles.many}>
            {quantity}
          </output>
          <Button aria-label="More" onClick={() => change({ quantity: quantity + 1 })}>
            +
          </Button>
        </span>
        <Button
          aria-pressed={urgent}
          type={urgent ? "primary" : "default"}
          onClick={() => change({ urgent: !urgent })}
        >
          Urgent
        </Button>
      </div>
      {visit.otherEquipment.length > 0 && (
        <fieldset className={styles.of}>
          <legend>For which equipment?</legend>
          {[{ id: undefined, name: visit.equipment ?? "none of these" }, ...visit.otherEquipment].map(
            ({ id, name }) => (
              <Button
                key={id ?? "job"}
                className="tall"
                aria-pressed={equipmentId === id}
                type={equipmentId === id ? "primary" : "default"}
                onClick={() => change({ equipmentId: id })}
              >
                {name}
              </Button>
            ),
          )}
        </fieldset>
      )}
      <Button type="primary" className="big" htmlType="submit" loading={want.running}>
        It is wanted
      </Button>
      <Button className="tall" onClick={back}>
        Back
      </Button>
    </form>
  );
}

function standing({ state, expectedOn }: MissingPart): string {
  switch (state) {
    case "ordered":
      return expectedOn ? `ordered, expected ${weekday(expectedOn)}` : "ordered";
    case "arrived":
      return "there, to be fitted";
    default:
      return "asked for";
  }
}

/** What the job waits for: fitted with one tap once it is there. */
export function MissingParts({ visit }: { visit: PocketVisit }) {
  const fit = useAct(
    (part: MissingPart, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/missing-parts/{partWantedId}/fit", {
          params: { path: { id: visit.visitId, partWantedId: part.id }, ...withKey(key) },
          body: { version: part.version },
        }),
      ),
    { said: (_, part) => ({ text: `Fitted: ${part.name || "the part"}.` }) },
  );
  const withdraw = useAct(
    (part: MissingPart) =>
      answer(
        client.POST("/api/pocket/visits/{id}/missing-parts/{partWantedId}/withdraw", {
          params: { path: { id: visit.visitId, partWantedId: part.id } },
          body: { version: part.version },
        }),
      ),
    { said: (_, part) => ({ text: `Not wanted after all: ${part.name || "the part"}.` }) },
  );
  if (visit.missingParts.length === 0) {
    return null;
  }
  return (
    <div className="fact">
      <div className="first">
        <span>Parts wanted</span>
      </div>
      {visit.missingParts.map((part) => {
        const name = part.name || "nobody knows what";
        return (
          <div key={part.id} className={styles.part}>
            <span>
              {part.quantity} {name}
              {part.urgent && <b> urgent</b>}
              <span className={`soft small ${styles.standing}`}>{standing(part)}</span>
            </span>
            {part.id > 0 && (
              <PhotoButton
                visitId={visit.visitId}
                partWantedId={part.id}
                words={name}
                label="Photo"
                of={name}
              />
            )}
            {visit.state === "on_site" && part.id > 0 && (
              <Button
                className="tall"
                aria-label={`Fitted ${name}`}
                loading={fit.running}
                onClick={() => fit.run(part)}
              >
                Fitted
              </Button>
            )}
            {part.state === "wanted" && (
              <Button
                className="tall"
                aria-label={`${name} is not wanted after all`}
                loading={withdraw.running}
                onClick={() => withdraw.run(part)}
              >
                Not wanted
              </Button>
            )}
          </div>
        );
      })}
    </div>
  );
}
