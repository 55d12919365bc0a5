import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { BooksEntry, Part, PartCost, Time } from "../api/generated/schema";
import { queries } from "../api/queries";
import { PostedIn } from "../books/PostedIn";
import { day, hours, money, timeOf, unitPrice, words } from "../format";
import { Asking } from "../kit/Asking";
import { Money, Quantity } from "../kit/figures";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";
import { Measured } from "./Measured";
import { TappedAway } from "./TappedAway";
import styles from "./WorkSection.module.css";

/** A time of a visit; its cost opens to the rates that it follows from. */
export function TimeRow({
  jobId,
  visitId,
  journal,
  entry,
  edit,
  helper,
  milesMissing,
}: {
  jobId: number;
  visitId: number;
  journal: BooksEntry[];
  entry: Time;
  edit?: () => void;
  /** Whose time it is, where it is not the visit's technician's. */
  helper?: string;
  milesMissing: boolean;
}) {
  const span = `${timeOf(entry.from, entry.fromDaysLater)} – ${entry.to ? timeOf(entry.to, entry.toDaysLater) : "running"}`;
  const isNormal = entry.rateClass === "normal";
  return (
    <tr data-time={entry.id}>
      <td>
        {edit ? (
          <Word id={`time-${entry.id}`} of=", correct it" run={edit}>
            {span}
          </Word>
        ) : (
          span
        )}
      </td>
      <td>
        {entry.kind === "drive" ? "Drive" : "Labour"}
        {entry.rateClass === "night" && ", night"}
        {helper && `, ${helper}`}
        {entry.description && <span className="soft">, {entry.description}</span>}
        {milesMissing && <span className="needs">, miles not entered</span>}
        {entry.inDoubt && <span className="needs">, the end was set by the next clock</span>}
        <Measured entry={entry} />
        <TappedAway jobId={jobId} timeEntryId={entry.id} />
      </td>
      <td className="figure">
        {isNormal && <Quantity minutes={entry.minutes} corrected={entry.corrected} />}
      </td>
      <td className="figure">
        {!isNormal && <Quantity minutes={entry.minutes} corrected={entry.corrected} />}
      </td>
      <td className="figure">{entry.miles > 0 && entry.miles}</td>
      <td className="figure">
        <details className={styles.why}>
          <summary aria-label={`Why it costs ${money(entry.costMinor)}`}>
            <Money soft minor={entry.costMinor} />
          </summary>
          <span className="small soft">
            {why(entry)} <PostedIn journal={journal} kind="visit" id={visitId} />
          </span>
        </details>
      </td>
    </tr>
  );
}

/** What the minutes and the miles of a time cost, and by which rates. */
function why({ minutes, miles, rateClass, costed }: Time): string {
  const counts = costed.classPercent === 100 ? "" : `, ${words(rateClass)} ${costed.classPercent} %`;
  const wage = `wage ${unitPrice(costed.wagePerHour)} and ${costed.onCostPercent} %${counts}`;
  return [
    `${hours(minutes)} at ${costed.costPerHour} an hour (${wage}): ${money(costed.timeMinor)}`,
    miles > 0 && `${miles} mi at ${unitPrice(costed.costPerMile)}: ${money(costed.distanceMinor)}`,
    costed.asApproved && "as it was approved; the rates are others now",
  ]
    .filter(Boolean)
    .join("; ");
}

/** A part of a visit; its cost opens to the purchases that it follows from. */
export function PartRow({
  part,
  journal,
  edit,
  editable,
}: {
  part: Part;
  journal: BooksEntry[];
  edit?: () => void;
  editable: boolean;
}) {
  const onRecord = useAct(
    (serialNumber: string, key) =>
      answer(
        client.POST("/api/visit-parts/{id}/equipment", {
          params: { path: { id: part.id }, ...withKey(key) },
          body: { serialNumber },
        }),
      ),
    { said: `On record: ${part.name}.` },
  );
  const warranty = useAct(
    (reason: string) =>
      answer(
        client.POST("/api/visit-parts/{id}/warranty", {
          params: { path: { id: part.id } },
          body: { version: part.version, reason },
        }),
      ),
    {
      said: (_, reason) => ({
        text: reason ? `Out of the warranty: ${part.name}.` : `Under the warranty again: ${part.name}.`,
      }),
    },
  );
  const quantity = <Quantity count={part.quantity} unit={part.unit} corrected={part.corrected} />;
  const covered = part.warrantyPercent !== "0";
  return (
    <tr data-part={part.id}>
      <td>
        {edit ? (
          <Word id={`part-${part.id}`} of={`${part.name}, correct it`} run={edit}>
            {quantity}
          </Word>
        ) : (
          quantity
        )}
      </td>
      <td colSpan={4}>
        {part.name}
        {part.beyondPromise > 0 && <span className="needs"> {part.beyondPromise} more than promised</span>}
        {part.toPutOnRecord > 0 && (
          <span className="small">
            {" "}
            <Asking
              plain
              label={
                part.toPutOnRecord > 1
                  ? `${part.toPutOnRecord} serial numbers missing…`
                  : "serial number missing…"
              }
              of={`of ${part.name}`}
              title={`${part.name}, fitted`}
              question="Its serial number; it goes on record at the site with its warranty."
              confirm="Put on record"
              run={onRecord.run}
            />
          </span>
        )}
        {covered && !part.warrantyExclusion && (
          <span className="soft small">
            {" "}
            warranty bears {part.warrantyPercent} %{" "}
            {editable && (
              <Asking
                plain
                label="not this part…"
                of={part.name}
                title={`Take “${part.name}” out of the warranty?`}
                question="Why? The reason stays with the line."
                confirm="Take out"
                run={warranty.run}
              />
            )}
          </span>
        )}
        {covered && part.warrantyExclusion && (
          <span className="soft small">
            {" "}
            not under warranty: {part.warrantyExclusion}{" "}
            {editable && (
              <Word id={`warranty-${part.id}`} of={`, ${part.name}`} run={() => warranty.run("")}>
                back under it
              </Word>
            )}
          </span>
        )}
      </td>
      <td className="figure">
        <WhyPart part={part} journal={journal} />
      </td>
    </tr>
  );
}

/** From which purchases the cost of a part comes; read when somebody asks. */
function WhyPart({ part, journal }: { part: Part; journal: BooksEntry[] }) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ ...queries.partCost(part.id), enabled: open });
  return (
    <details className={styles.why} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary aria-label={`Why it costs ${money(part.costMinor)}`}>
        <Money soft minor={part.costMinor} />
      </summary>
      <span className="small soft">
        {data ? whyPart(data) : "…"} <PostedIn journal={journal} kind="visit_part" id={part.id} />
      </span>
    </details>
  );
}

/** The average that it cost, and what made it. */
function whyPart({ quantity, costMinor, heldQuantity, heldMinor, purchases }: PartCost): string {
  const held =
    heldQuantity == null || heldMinor == null
      ? "as it was booked"
      : `at the average of ${heldQuantity} held, worth ${money(heldMinor)}`;
  const bought = purchases.map((one) => `${day(one.day)} ${one.quantity} for ${money(one.costMinor)}`);
  return `${quantity} ${held}: ${money(costMinor)}${bought.length > 0 ? `; bought ${bought.join(", ")}` : ""}`;
}
