import { Button, Input } from "antd";
import { useState } from "react";
import type { PocketVisit } from "../api/generated/schema";
import { useTap } from "./useTap";

type Part = PocketVisit["parts"][number];

/** The serial number of a part that is kept on record once it is fitted, in the place of what stood there or beside it. */
export function SerialNumber({ visit, part }: { visit: PocketVisit; part: Part }) {
  const [open, setOpen] = useState(false);
  const [serial, setSerial] = useState("");
  const [fault, setFault] = useState<string>();
  const note = useTap({
    done: () => {
      setOpen(false);
      setSerial("");
      setFault(undefined);
    },
    refused: (problem) =>
      setFault(problem.faults.find((one) => one.pointer !== "")?.detail ?? problem.message),
    said: "It is on record.",
  });
  if (!open) {
    return (
      <Button
        className="tall"
        block
        aria-label={`Serial number of ${part.name}`}
        onClick={() => setOpen(true)}
      >
        Serial number
        {part.unrecorded > 1 && `, ${part.unrecorded} to note`}
      </Button>
    );
  }
  const send = (replaces: boolean) =>
    note.run({
      step: "note_serial_number",
      visitId: visit.visitId,
      form: { visitPartId: part.id, serialNumber: serial, replaces },
      name: part.name,
    });
  return (
    <form
      className="form"
      aria-label={`Serial number of ${part.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        send(false);
      }}
    >
      <label>
        Serial number of {part.name}
        <Input
          className="tall"
          autoFocus
          autoComplete="off"
          value={serial}
          onChange={(event) => setSerial(event.target.value)}
        />
      </label>
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
      {visit.equipment && (
        <Button className="tall" loading={note.running} onClick={() => send(true)}>
          In the place of {visit.equipment}
        </Button>
      )}
      <div className="pair">
        <Button htmlType="submit" loading={note.running}>
          It is one more
        </Button>
        <Button onClick={() => setOpen(false)}>Later</Button>
      </div>
    </form>
  );
}
