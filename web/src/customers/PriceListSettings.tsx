import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { PriceList } from "../api/generated/schema";
import { queries } from "../api/queries";
import { History } from "../history/History";
import { DeleteButton } from "../kit/DeleteButton";
import lines from "../kit/Lines.module.css";
import { latest } from "../kit/latest";
import { RecordForm } from "../kit/RecordForm";
import { KeptSection } from "../people/KeptSection";
import { useMay } from "../people/useMay";

/** What some customers pay less for parts. */
export function PriceListSettings() {
  const { data, error } = useQuery(queries.priceLists);
  const [open, setOpen] = useState<PriceList | "new">();
  const mayChange = useMay("change_settings");
  return (
    <KeptSection name="Price lists" error={error} add={() => setOpen("new")}>
      {data?.length === 0 && <span className="soft">Everybody pays the same.</span>}
      <table className={lines.lines}>
        <tbody>
          {data?.map((list) => (
            <tr key={list.id}>
              <td>{list.name}</td>
              <td>parts less {list.partsDiscountPercent} %</td>
              <td className="figure">
                {list.customers === 1 ? "1 customer" : `${list.customers} customers`}
              </td>
              <td className="figure">
                {mayChange && (
                  <button type="button" className="plain small" onClick={() => setOpen(list)}>
                    edit
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {open && (
        <PriceListForm
          list={open === "new" ? undefined : latest(data, open)}
          close={() => setOpen(undefined)}
        />
      )}
    </KeptSection>
  );
}

function PriceListForm({ list, close }: { list: PriceList | undefined; close: () => void }) {
  return (
    <RecordForm
      title={list ? list.name : "Another price list"}
      confirm="Save price list"
      fields={[
        { name: "name", label: "Name" },
        { name: "partsDiscountPercent", label: "Off the price of parts, %", hint: "10", half: true },
      ]}
      initial={{
        name: list?.name ?? "",
        partsDiscountPercent: list ? String(list.partsDiscountPercent) : "",
      }}
      version={list?.version ?? 0}
      save={(values, key, version) => {
        const body = {
          version,
          name: String(values.name ?? ""),
          partsDiscountPercent: String(values.partsDiscountPercent ?? ""),
        };
        return list
          ? answer(client.PUT("/api/settings/price-lists/{id}", { params: { path: { id: list.id } }, body }))
          : answer(client.POST("/api/settings/price-lists", { params: withKey(key), body }));
      }}
      close={close}
      below={list && <History kind="price_list" id={list.id} />}
      aside={
        list && (
          <DeleteButton what={list.name} path="/api/settings/price-lists/{id}" record={list} close={close} />
        )
      }
    />
  );
}
