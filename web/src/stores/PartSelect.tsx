import { useQuery } from "@tanstack/react-query";
import { Select } from "antd";
import { useState } from "react";
import { queries } from "../api/queries";

/** Chooses a part of the price list by any words of its number or name. */
export function PartSelect({
  value,
  onChange,
}: {
  value: number | undefined;
  onChange: (id: number, name: string) => void;
}) {
  const [wanted, setWanted] = useState("");
  const { data } = useQuery(queries.parts(wanted));
  return (
    <Select
      showSearch={{ filterOption: false, onSearch: setWanted }}
      value={value}
      aria-label="Part"
      placeholder="Part, by any word"
      popupMatchSelectWidth={380}
      onChange={(id) => onChange(id, data?.find((part) => part.id === id)?.name ?? "")}
      options={(data ?? []).map((part) => ({
        value: part.id,
        label: `${part.name}  ${part.number}, ${part.held} held`,
      }))}
    />
  );
}
