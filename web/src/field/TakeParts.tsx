import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import type { PocketVisit as Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { ScanCode } from "./ScanCode";
import { NoteUnlisted } from "./UnlistedParts";
import { useParts } from "./useCarried";
import { useTap } from "./useTap";

const MOST_OFFERED = 12;

type Choice = { partId: number; name: string; quantity: number };

/** Parts from the van: those promised, of a kit, used lately, or found by what is typed. */
export function TakeParts({ visit, back }: { visit: Visit; back: () => void }) {
  const [wanted, setWanted] = useState("");
  const [scanning, setScanning] = useState(false);
  const [code, setCode] = useState<string>();
  const found = useParts(wanted === "" && code ? code : wanted);
  const unknown = code !== undefined && wanted === "" && found.length === 0;
  const sought = wanted === "" && code && !unknown ? code : wanted;
  const { data: kits } = useQuery(queries.carriedKits);
  return (
    <section aria-label="Parts from the van">
      <Input
        className="tall"
        allowClear
        placeholder="Find a part"
        aria-label="Find a part"
        value={wanted}
        onChange={(event) => setWanted(event.target.value)}
      />
      {scanning ? (
        <ScanCode
          found={(read) => {
            setScanning(false);
            setWanted("");
            setCode(read);
          }}
          close={() => setScanning(false)}
        />
      ) : (
        <Button className="tall" block onClick={() => setScanning(true)}>
          Scan a code
        </Button>
      )}
      {code && (
        <p role="status" className="soft">
          Scanned: {code}.{" "}
          {unknown && "Nobody has said yet what it is. Find the part and add it: the code is remembered."}
        </p>
      )}
      {sought === "" && visit.partsToFit.length > 1 && (
        <Several visitId={visit.visitId} name="All that was promised" parts={visit.partsToFit} />
      )}
      {sought === "" &&
        visit.partsToFit.map((part) => (
          <PartChoice
            key={`promised ${part.partId} ${part.quantity}`}
            visitId={visit.visitId}
            part={{ id: part.partId, name: part.name, about: `${part.quantity} promised` }}
            usual={part.quantity}
            code={code}
            added={() => setCode(undefined)}
          />
        ))}
      {kits
        ?.filter((kit) => kit.name.toLowerCase().includes(sought.trim().toLowerCase()))
        .map((kit) => (
          <Several key={kit.id} visitId={visit.visitId} name={kit.name} parts={kit.parts} />
        ))}
      {found
        .filter((part) => sought !== "" || !visit.partsToFit.some((promised) => promised.partId === part.id))
        .slice(0, MOST_OFFERED)
        .map((part) => (
          <PartChoice
            key={part.id}
            visitId={visit.visitId}
            part={{ id: part.id, name: part.name, about: inVan(part) }}
            usual={1}
            code={code}
            added={() => setCode(undefined)}
          />
        ))}
      {wanted.trim() !== "" && (
        <NoteUnlisted visitId={visit.visitId} name={wanted.trim()} noted={() => setWanted("")} />
      )}
      <div className="pair">
        <Button onClick={back}>Done with parts</Button>
      </div>
    </section>
  );
}

function inVan({ inVan, unit }: { inVan: number; unit: string }): string {
  const held = `${inVan} ${unit}`.trim().replace("-", "−");
  return inVan < 0 ? `${held} in the van: the office puts it right` : `${held} in the van`;
}

const use = (visitId: number, { partId, name, quantity }: Choice) => ({
  step: "use_part" as const,
  visitId,
  form: { partId, quantity: String(quantity) },
  name,
});

/** Several parts with one tap, each with its quantity. */
function Several({ visitId, name, parts }: { visitId: number; name: string; parts: Choice[] }) {
  // Where one was refused, those before it are on the visit and are not added again.
  const [added, setAdded] = useState<number[]>([]);
  const left = parts.filter((part) => !added.includes(part.partId));
  const add = useTap({
    each: ({ form }) => setAdded((before) => [...before, Number(form.partId)]),
    done: () => setAdded([]),
    said: `Added: ${left.length} parts.`,
  });
  return (
    <div className="part-choice">
      <span>
        <b>{name}</b>
        <div className="soft small">{left.map((part) => `${part.quantity} ${part.name}`).join(", ")}</div>
      </span>
      <Button
        className="tall"
        aria-label={`Add ${name}`}
        loading={add.running}
        onClick={() => add.run(left.map((part) => use(visitId, part)))}
      >
        Add {left.length}
      </Button>
    </div>
  );
}

function PartChoice({
  visitId,
  part,
  usual,
  code,
  added,
}: {
  visitId: number;
  part: { id: number; name: string; about: string };
  usual: number;
  /** What was scanned, and so is printed on its box. */
  code?: string;
  added?: () => void;
}) {
  const [quantity, setQuantity] = useState(String(usual));
  const add = useTap({ said: "Done.", done: added });
  const step = (by: number) => setQuantity(String(Math.max(1, (Number(quantity) || 0) + by)));
  return (
    <div className="part-choice">
      <span>
        <b>{part.name}</b>
        <div className="soft small">{part.about}</div>
        <span className="stepper">
          <Button aria-label={`Fewer ${part.name}`} onClick={() => step(-1)}>
            −
          </Button>
          <Input
            aria-label={`Quantity of ${part.name}`}
            inputMode="decimal"
            value={quantity}
            onChange={(event) => setQuantity(event.target.value)}
          />
          <Button aria-label={`More ${part.name}`} onClick={() => step(1)}>
            +
          </Button>
        </span>
      </span>
      <Button
        className="tall"
        aria-label={`Add ${part.name}`}
        loading={add.running}
        onClick={() =>
          add.run({ step: "use_part", visitId, form: { partId: part.id, quantity, code }, name: part.name })
        }
      >
        Add
      </Button>
    </div>
  );
}
