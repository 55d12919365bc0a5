import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { UnlistedPart, VisitPhoto } from "../api/generated/schema";
import { queries } from "../api/queries";
import { currencyMark } from "../format";
import { RecordForm } from "../kit/RecordForm";
import { Word } from "../kit/Word";
import { useTap } from "./useTap";
import { VisitPhotos } from "./VisitPhotos";

/** On the phone: what was looked for is on no list, and is noted by its name. */
export function NoteUnlisted({ visitId, name, noted }: { visitId: number; name: string; noted: () => void }) {
  const [quantity, setQuantity] = useState("1");
  const note = useTap({ done: noted, said: "Noted. The office prices it." });
  return (
    <div className="part-choice">
      <span>
        <b>{name}</b>
        <div className="soft small">not on the list: noted by this name</div>
        <Input
          className="tall"
          aria-label="How many of what is not on the list"
          inputMode="decimal"
          value={quantity}
          onChange={(event) => setQuantity(event.target.value)}
        />
      </span>
      <Button
        className="tall"
        loading={note.running}
        onClick={() => note.run({ step: "note_unlisted_part", visitId, form: { name, quantity } })}
      >
        Note it
      </Button>
    </div>
  );
}

/** On the sheet: what was fitted and is on no price list; the visit is not checked before it is priced. */
export function UnlistedParts({ jobId, editable }: { jobId: number; editable: boolean }) {
  const { data } = useQuery(queries.unlistedParts(jobId));
  const { data: photos } = useQuery(queries.photosOfJob(jobId));
  return data?.map((part) => (
    <Unlisted
      key={part.id}
      part={part}
      photos={photos?.filter((photo) => photo.unlistedPartId === part.id) ?? []}
      editable={editable}
    />
  ));
}

function Unlisted({
  part,
  photos,
  editable,
}: {
  part: UnlistedPart;
  photos: VisitPhoto[];
  editable: boolean;
}) {
  const [open, setOpen] = useState<"price" | "drop">();
  const close = () => setOpen(undefined);
  return (
    <div data-unlisted={part.id}>
      <b>
        {part.quantity} {part.name}
      </b>{" "}
      <span className="needs">on no price list</span> <span className="soft">noted by {part.notedBy}</span>
      {editable && (
        <>
          {" "}
          <Word id={`price-unlisted-${part.id}`} of={` ${part.name}`} run={() => setOpen("price")}>
            Price it
          </Word>{" "}
          <Word id={`drop-unlisted-${part.id}`} of={` ${part.name}`} run={() => setOpen("drop")}>
            It was none
          </Word>
        </>
      )}
      <VisitPhotos photos={photos} editable={editable} />
      {open === "price" && <PriceForm part={part} close={close} />}
      {open === "drop" && <DropForm part={part} close={close} />}
    </div>
  );
}

const PriceForm = ({ part, close }: { part: UnlistedPart; close: () => void }) => (
  <RecordForm
    title={`${part.quantity} ${part.name}`}
    confirm="Put it on the list and on the visit"
    fields={[
      { name: "number", label: "Number on the price list", half: true, needed: true, hint: "HIN-M12" },
      { name: "name", label: "Name", half: true, needed: true },
      { name: "unit", label: "Unit, empty for pieces", half: true, hint: "m" },
      { name: "unitCost", label: `What one costs us, ${currencyMark()}`, half: true, needed: true },
      {
        name: "unitPrice",
        label: `What one is charged at, ${currencyMark()}; empty for the usual markup`,
        half: true,
      },
    ]}
    initial={{ number: "", name: part.name, unit: "", unitCost: "", unitPrice: "" }}
    version={part.version}
    save={(values, _, version) =>
      answer(
        client.POST("/api/unlisted-parts/{id}/price", {
          params: { path: { id: part.id } },
          body: { ...values, version },
        }),
      )
    }
    close={close}
  />
);

const DropForm = ({ part, close }: { part: UnlistedPart; close: () => void }) => (
  <RecordForm
    title={`${part.quantity} ${part.name}: none to be priced`}
    confirm="Take it off"
    fields={[{ name: "reason", label: "Why", needed: true, hint: "it is on the list and on the visit" }]}
    initial={{ reason: "" }}
    version={part.version}
    save={(values, _, version) =>
      answer(
        client.POST("/api/unlisted-parts/{id}/drop", {
          params: { path: { id: part.id } },
          body: { version, reason: String(values.reason ?? "") },
        }),
      )
    }
    close={close}
  />
);
