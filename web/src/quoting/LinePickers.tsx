import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input, Modal } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { TypedLine } from "../api/generated/schema";
import { queries } from "../api/queries";
import { unitPrice } from "../format";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";
import styles from "./LinePickers.module.css";

/** Several parts at once: search, tick, quantities, in. */
export function PartsPicker({ add }: { add: (lines: TypedLine[]) => void }) {
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState("");
  const [picked, setPicked] = useState<{ id: number; name: string; quantity: string }[]>([]);
  const { data } = useQuery(queries.parts(wanted));
  const toggle = (id: number, name: string) =>
    setPicked(
      picked.some((part) => part.id === id)
        ? picked.filter((part) => part.id !== id)
        : [...picked, { id, name, quantity: "1" }],
    );
  const close = () => {
    setOpen(false);
    setPicked([]);
    setWanted("");
  };
  const take = () => {
    add(
      picked.map((part) => ({
        category: "parts",
        partId: part.id,
        description: part.name,
        quantity: part.quantity,
      })),
    );
    close();
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>Add parts</Button>
      <Modal open={open} title="Parts from the price list" onCancel={close} footer={null} destroyOnHidden>
        <form
          className={styles.parts}
          onSubmit={(event) => {
            event.preventDefault();
            take();
          }}
        >
          <Input
            autoFocus
            aria-label="Find parts"
            placeholder="any word of a part"
            value={wanted}
            onChange={(event) => setWanted(event.target.value)}
          />
          <div className={styles.found}>
            {(data ?? []).slice(0, 30).map((part) => (
              <Checkbox
                key={part.id}
                checked={picked.some((one) => one.id === part.id)}
                onChange={() => toggle(part.id, part.name)}
              >
                {part.name} <span className="soft small">{part.number}</span>
                <span className="figure">{unitPrice(part.price)}</span>
              </Checkbox>
            ))}
          </div>
          {picked.map((part) => (
            <div key={part.id} className={styles.picked}>
              <Input
                aria-label={`Quantity of ${part.name}`}
                value={part.quantity}
                onChange={(event) =>
                  setPicked(
                    picked.map((one) =>
                      one.id === part.id ? { ...one, quantity: event.target.value } : one,
                    ),
                  )
                }
              />
              <span>{part.name}</span>
            </div>
          ))}
          <Button type="primary" htmlType="submit" disabled={picked.length === 0}>
            {picked.length === 1 ? "Add 1 part" : `Add ${picked.length} parts`}
          </Button>
        </form>
      </Modal>
    </>
  );
}

/** Lines that are always quoted together: put in at once, or kept for later. */
export function KitPicker({ lines, add }: { lines: TypedLine[]; add: (lines: TypedLine[]) => void }) {
  const { data: kits } = useQuery(queries.kits);
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState("");
  const keep = useAct(
    (_: undefined, key) => answer(client.POST("/api/kits", { params: withKey(key), body: { name, lines } })),
    {
      done: () => {
        setNaming(false);
        setName("");
      },
      said: `Kept as a kit: ${name}.`,
    },
  );
  return (
    <>
      <Select
        aria-label="Add a kit"
        placeholder="Add a kit"
        className={styles.kits}
        value={null}
        popupMatchSelectWidth={false}
        onChange={(id: number | null) => add(kits?.find((kit) => kit.id === id)?.lines ?? [])}
        options={(kits ?? []).map((kit) => ({
          value: kit.id,
          label: `${kit.name}, ${kit.lines.length} lines`,
        }))}
      />
      <Word run={() => setNaming(true)}>keep these lines as a kit</Word>
      <Modal open={naming} title="Keep these lines as a kit" footer={null} onCancel={() => setNaming(false)}>
        <form
          className={styles.naming}
          onSubmit={(event) => {
            event.preventDefault();
            keep.run(undefined);
          }}
        >
          <Input
            autoFocus
            aria-label="Name of the kit"
            placeholder="Photocells renewed"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="primary" htmlType="submit" loading={keep.running}>
            Keep it
          </Button>
        </form>
      </Modal>
    </>
  );
}
