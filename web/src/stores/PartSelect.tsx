import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../api/queries";
import type { Tied } from "../kit/Field";
import { Picker } from "../kit/Picker";

/** Chooses a part of the price list by any words of its number or name. */
export function PartSelect({
  label,
  tied,
  value,
  onChange,
}: {
  /** Its name, where no label stands above it. */
  label?: string;
  tied?: Tied;
  value: number | undefined;
  onChange: (id: number, name: string) => void;
}) {
  const [wanted, setWanted] = useState("");
  const { data } = useQuery(queries.parts(wanted));
  return (
    <Picker
      label={label}
      tied={tied}
      value={value}
      search={setWanted}
      placeholder="Part, by any word"
      width={380}
      onChange={(id) => onChange(id, data?.find((part) => part.id === id)?.name ?? "")}
      options={(data ?? []).map((part) => ({
        value: part.id,
        label: `${part.name}  ${part.number}, ${part.held} held`,
      }))}
    />
  );
}
