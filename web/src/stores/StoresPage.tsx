import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { HeldPart, StockPlace } from "../api/generated/schema";
import { HELD_PARTS_LISTS, queries } from "../api/queries";
import { currencyMark, money } from "../format";
import { useActs } from "../kit/Act";
import { Beside, besideStyles } from "../kit/Beside";
import { ChoiceField, MoneyField, QuantityField, TextField } from "../kit/fields";
import { Heading } from "../kit/Heading";
import { InlineForm } from "../kit/InlineForm";
import {
  askedFor,
  KeyedList,
  ListEnd,
  ListFilter,
  moved,
  rowId,
  useKeptInSight,
  useListSearch,
} from "../kit/KeyedList";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { Select } from "../kit/Select";
import { Sheet, SheetHead } from "../kit/Sheet";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { useTitle } from "../kit/useTitle";
import { useMay } from "../people/useMay";
import { Handovers } from "./Handovers";
import { Movements } from "./Movements";
import { PartCodes } from "./PartCodes";
import styles from "./StoresPage.module.css";

const LISTS = { all: "all parts", below_zero: "below zero" };

/** What the store and the vans hold, with deliveries, counts and what goes from hand to hand. */
export default function StoresPage() {
  const [search, set] = useListSearch();
  const which = askedFor(HELD_PARTS_LISTS, search.get("which"));
  const filter = search.get("filter") ?? "";
  const list = useInfiniteQuery(queries.heldParts(which, filter));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at, setAt] = useState<number>();
  const index =
    rows.length === 0
      ? -1
      : Math.max(
          rows.findIndex((row) => row.id === at),
          0,
        );
  const chosen = rows[index];
  const acts = useActs();
  const keyed = useRef<HTMLDivElement>(null);
  useTitle("In store and vans");
  return (
    <Beside acts={acts}>
      <KeyedList
        list={keyed}
        label="In store and vans"
        className={besideStyles.list}
        rowsClass={besideStyles.rows}
        role={rows.length > 0 ? "listbox" : "group"}
        on={chosen && String(chosen.id)}
        move={(by) => setAt(rows[moved(index, by, rows.length)]?.id)}
        enter={() => acts.run("Enter")}
        head={
          <div className={besideStyles.head}>
            <div className={besideStyles.line}>
              <Heading>In store and vans</Heading>
              <Link to="/parts-wanted">Parts wanted</Link>
            </div>
            <div className={besideStyles.tools}>
              <ListFilter value={filter} change={(typed) => set("filter", typed)} />
              <Select
                aria-label="Which parts"
                value={which}
                onChange={(value) => set("which", value === "all" ? "" : value)}
                style={{ width: 120 }}
                options={HELD_PARTS_LISTS.map((value) => ({ value, label: LISTS[value] }))}
              />
            </div>
          </div>
        }
        end={
          <ListEnd
            list={list}
            none={
              list.data && rows.length === 0
                ? filter
                  ? "Nothing matches. Clear the filter to see all."
                  : which === "below_zero"
                    ? "Nothing is below zero."
                    : "There are no parts yet. Take in a price list under Settings."
                : undefined
            }
          />
        }
      >
        {rows.map((row, each) => (
          <Row key={row.id} part={row} on={each === index} choose={() => setAt(row.id)} />
        ))}
      </KeyedList>
      {chosen && <HeldSheet key={chosen.id} part={chosen} />}
    </Beside>
  );
}

const isBelowZero = (part: HeldPart) => part.levels.some((level) => level.quantity < 0);

function Row({ part, on, choose }: { part: HeldPart; on: boolean; choose: () => void }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  const below = isBelowZero(part);
  const held = `${part.held} ${part.unit}`.trim().replace("-", "−");
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(String(part.id))}
      className={`${besideStyles.row} ${styles.row}`}
      role="option"
      aria-selected={on}
      aria-label={[part.name, part.number, `${held} held`, below && "a place is below zero"]
        .filter(Boolean)
        .join(", ")}
      onClick={choose}
      data-row={`part-${part.id}`}
    >
      <span>
        <div className={styles.name}>{part.name}</div>
        <div className={styles.about}>
          {part.number}
          {below && <span className="needs"> · below zero</span>}
        </div>
      </span>
      <span className={part.held < 0 ? "figure needs" : "figure"}>{held}</span>
    </div>
  );
}

type Doing = "delivery" | "count" | "move";

function HeldSheet({ part }: { part: HeldPart }) {
  const [doing, setDoing] = useState<Doing>();
  const { data: places } = useQuery(queries.stockPlaces);
  const mayMove = useMay("record_work");
  const close = () => setDoing(undefined);
  return (
    <Sheet
      label={part.name}
      record={`held-part-${part.id}`}
      head={
        <SheetHead
          number={part.number}
          title={part.name}
          titled="In store and vans"
          about={`${part.held} ${part.unit} held, worth ${currencyMark()}${money(part.valueMinor)}; one costs ${currencyMark()}${money(part.averageCostMinor)} on average`}
        />
      }
    >
      <Section name="Where">
        <Levels part={part} places={places ?? []} />
        {part.unexplained > 0 && (
          <p className="needs">
            {part.unexplained} {part.unit} used that no place held: stock differences bear {currencyMark()}
            {money(part.unexplainedMinor)} until a delivery or a count explains it.
          </p>
        )}
        {mayMove && !doing && (
          <div className={styles.acts}>
            <Button onClick={() => setDoing("delivery")}>Take a delivery in</Button>
            <Button onClick={() => setDoing("count")}>Counted</Button>
            <Button onClick={() => setDoing("move")}>Hand over</Button>
          </div>
        )}
        {doing === "delivery" && places && <DeliveryForm part={part} places={places} close={close} />}
        {doing === "count" && places && <CountForm part={part} places={places} close={close} />}
        {doing === "move" && places && <MoveForm part={part} places={places} close={close} />}
      </Section>
      <Handovers />
      <PartCodes part={part} editable={mayMove} />
      <Movements part={part} />
    </Sheet>
  );
}

function Levels({ part, places }: { part: HeldPart; places: StockPlace[] }) {
  const known = new Map(places.map((place) => [place.id, place.name]));
  if (part.levels.length === 0) {
    return <p className="soft">Nowhere.</p>;
  }
  return (
    <Lines
      caption={`Where ${part.name} is`}
      columns={[{ name: "Place" }, { name: "Quantity", figure: true, width: 120 }]}
    >
      {part.levels.map((level) => (
        <tr key={level.placeId}>
          <td>
            {known.get(level.placeId)}
            {level.quantity < 0 && <span className="needs"> below zero</span>}
          </td>
          <td className={level.quantity < 0 ? "figure needs" : "figure"}>
            {String(level.quantity).replace("-", "−")} {part.unit}
          </td>
        </tr>
      ))}
    </Lines>
  );
}

type FormOf = { part: HeldPart; places: StockPlace[]; close: () => void };

const choices = (places: StockPlace[]) => places.map(({ id, name }) => ({ value: id, label: name }));

function DeliveryForm({ part, places, close }: FormOf) {
  const form = useForm({
    version: 0,
    draft: { quantity: "", unitCost: "", placeId: places[0]?.id as number | undefined },
  });
  const take = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/held-parts/{id}/deliveries", {
          params: { path: { id: part.id }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    {
      done: close,
      refused: form.refused,
      said: `In: ${form.draft.quantity} ${part.name}. Posted to goods received, not billed.`,
    },
  );
  return (
    <InlineForm
      form={form}
      label={`Delivery of ${part.name}`}
      confirm="Take it in"
      running={take.running}
      submit={() => take.run(undefined)}
      close={close}
    >
      <QuantityField form={form} name="quantity" label="How many" width={90} autoFocus />
      <MoneyField form={form} name="unitCost" label="One costs, without VAT" width={150} />
      <ChoiceField form={form} name="placeId" label="Into" width={170} options={choices(places)} />
    </InlineForm>
  );
}

function CountForm({ part, places, close }: FormOf) {
  const worst = part.levels.find((level) => level.quantity < 0)?.placeId ?? places[0]?.id;
  const form = useForm({
    version: 0,
    draft: { placeId: worst as number | undefined, counted: "", reason: "" },
  });
  const count = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/held-parts/{id}/counts", {
          params: { path: { id: part.id }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    { done: close, refused: form.refused, said: `Counted: ${part.name}. The difference is posted.` },
  );
  return (
    <InlineForm
      form={form}
      label={`Count of ${part.name}`}
      confirm="So many are there"
      running={count.running}
      submit={() => count.run(undefined)}
      close={close}
    >
      <ChoiceField form={form} name="placeId" label="Where" width={170} options={choices(places)} />
      <QuantityField form={form} name="counted" label="Really there" width={100} autoFocus />
      <TextField form={form} name="reason" label="Why it differs" width={220} />
    </InlineForm>
  );
}

function MoveForm({ part, places, close }: FormOf) {
  const form = useForm({
    version: 0,
    draft: {
      fromPlaceId: places[0]?.id as number | undefined,
      toPlaceId: undefined as number | undefined,
      quantity: "",
    },
  });
  const ask = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/handovers", {
          params: withKey(key),
          body: { ...form.draft, partId: part.id },
        }),
      ),
    { done: close, refused: form.refused, said: "Asked. It moves with the other side’s yes." },
  );
  return (
    <InlineForm
      form={form}
      label={`Hand ${part.name} over`}
      confirm="Ask for a yes"
      running={ask.running}
      submit={() => ask.run(undefined)}
      close={close}
    >
      <ChoiceField form={form} name="fromPlaceId" label="From" width={170} options={choices(places)} />
      <ChoiceField form={form} name="toPlaceId" label="To" width={170} options={choices(places)} />
      <QuantityField form={form} name="quantity" label="How many" width={90} autoFocus />
    </InlineForm>
  );
}
