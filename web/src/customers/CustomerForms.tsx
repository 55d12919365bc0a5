import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Problem, withKey } from "../api/client";
import type { CallerCard, ContactOf, EquipmentOf, SiteOf } from "../api/generated/schema";
import { queries } from "../api/queries";
import { money, time, words } from "../format";
import { History } from "../history/History";
import { Asking } from "../kit/Asking";
import { DeleteButton } from "../kit/DeleteButton";
import { type RecordField, RecordForm, type Values } from "../kit/RecordForm";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import styles from "./CustomerForms.module.css";
import { smallPhoto } from "./smallPhoto";

const text = (value: Values[string]): string | undefined =>
  value === undefined || value === "" ? undefined : String(value);
const id = (value: Values[string]): number | undefined => (typeof value === "number" ? value : undefined);

/** Who pays: how they are reached, their terms, and whether we still work for them. */
export function CustomerForm({ card, close }: { card: CallerCard; close: () => void }) {
  const { data: choices } = useQuery(queries.customerChoices);
  const { data: { vatTreatments } = {} } = useQuery(queries.choices);
  const named = (list: { id: number; name: string }[] | undefined) =>
    (list ?? []).map((entry) => ({ value: entry.id, label: entry.name }));
  const fields: RecordField[] = [
    { name: "name", label: "Name" },
    { name: "phone", label: "Phone", half: true },
    { name: "email", label: "Mail", half: true },
    { name: "address", label: "Address for the invoice", half: true },
    { name: "postcode", label: "Postcode", half: true },
    { name: "paymentDays", label: "Pays within days", half: true },
    { name: "creditLimit", label: "Credit limit", hint: "none", half: true },
    {
      name: "priceListId",
      label: "Price list",
      kind: "choice",
      options: named(choices?.priceLists),
      hint: "list prices",
      half: true,
    },
    {
      name: "responseTermsId",
      label: "Response terms",
      kind: "choice",
      options: named(choices?.responseTerms),
      hint: "Standard",
      half: true,
    },
    { name: "vatNumber", label: "VAT number", half: true },
    {
      name: "vatCode",
      label: "How VAT applies",
      kind: "choice",
      options: vatTreatments?.map(({ code, words }) => ({ value: code, label: words })),
      hint: "as usual",
      half: true,
    },
    { name: "reference", label: "Reference in other books", half: true },
    { name: "pricesWithVat", label: "quotes show prices with VAT", kind: "tick" },
    { name: "stopReason", label: "On stop, because", hint: "leave empty to go on working for them" },
  ];
  return (
    <RecordForm
      title={`C ${card.number}, who pays`}
      confirm="Save customer"
      fields={fields}
      initial={{
        name: card.name,
        phone: card.phone,
        email: card.email,
        address: card.address,
        postcode: card.postcode,
        paymentDays: String(card.paymentDays),
        creditLimit: card.debt.creditLimitMinor > 0 ? money(card.debt.creditLimitMinor) : "",
        priceListId: card.priceListId ?? undefined,
        responseTermsId: card.responseTermsId ?? undefined,
        vatNumber: card.vatNumber,
        vatCode: card.vatCode ?? undefined,
        pricesWithVat: card.pricesWithVat,
        reference: card.reference ?? "",
        stopReason: card.debt.stopReason ?? "",
      }}
      version={card.version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/customers/{id}", {
            params: { path: { id: card.id } },
            body: {
              version,
              name: text(values.name),
              phone: text(values.phone) ?? "",
              email: text(values.email),
              address: text(values.address),
              postcode: text(values.postcode),
              paymentDays: text(values.paymentDays),
              creditLimit: text(values.creditLimit),
              stopReason: text(values.stopReason),
              vatNumber: text(values.vatNumber),
              vatCode: text(values.vatCode),
              pricesWithVat: values.pricesWithVat === true,
              reference: text(values.reference),
              priceListId: id(values.priceListId),
              responseTermsId: id(values.responseTermsId),
            },
          }),
        )
      }
      close={close}
      aside={<CustomerEnds card={card} close={close} />}
    />
  );
}

/** The two ways in which a customer goes: into another one, or away altogether. */
function CustomerEnds({ card, close }: { card: CallerCard; close: () => void }) {
  const [merging, setMerging] = useState(false);
  const navigate = useNavigate();
  const remove = useAct(
    () =>
      answer(
        client.DELETE("/api/customers/{id}", {
          params: { path: { id: card.id }, query: { version: card.version } },
        }),
      ),
    { done: () => navigate("/customers") },
  );
  return (
    <>
      <Button onClick={() => setMerging(true)} style={{ marginLeft: "auto" }}>
        Merge…
      </Button>
      <Asking
        label="Delete…"
        title={`Delete ${card.name}? Only a customer without any work, invoice or call can be deleted. This cannot be undone.`}
        confirm="Delete"
        run={() => remove.run()}
        running={remove.running}
      />
      {merging && (
        <MergeForm
          card={card}
          close={() => {
            setMerging(false);
            close();
          }}
        />
      )}
    </>
  );
}

/** Joins this customer into another one; likely doubles are offered first. */
function MergeForm({ card, close }: { card: CallerCard; close: () => void }) {
  const [typed, setTyped] = useState("");
  const [intoId, setIntoId] = useState<number>();
  const [problem, setProblem] = useState<Problem>();
  const navigate = useNavigate();
  const { data: hits } = useQuery(queries.find(typed));
  const { data: likely } = useQuery(queries.doubles(card.name, card.phone, card.postcode, card.id));
  const found = (hits ?? [])
    .filter((hit) => hit.kind === "customer" && hit.id !== card.id)
    .map((hit) => ({ value: hit.id, label: `${hit.title}, ${hit.detail}` }));
  const offered = (likely ?? []).map((double) => ({
    value: double.id,
    label: `${double.name}, C ${double.number}, ${double.address} (${double.same.map(words).join(", ")})`,
  }));
  const merge = useAct(
    () =>
      answer(
        client.POST("/api/customers/{id}/merge", {
          params: { path: { id: card.id } },
          body: { version: card.version, intoId },
        }),
      ),
    {
      done: () => {
        close();
        navigate(`/customers/${intoId}`);
      },
      refused: setProblem,
    },
  );
  return (
    <div className={styles.merge}>
      <p>
        Everything of {card.name} goes to the customer that stays: sites, quotes, jobs, invoices, calls. Phone
        and mail stay as a contact there. The merge is kept on record; it cannot be undone.
      </p>
      <div className="field">
        <span>The customer that stays</span>
        <Select
          autoFocus
          aria-label="The customer that stays"
          showSearch={{ filterOption: false, onSearch: setTyped }}
          value={intoId}
          placeholder="name, phone or number"
          onChange={setIntoId}
          options={typed.trim().length > 1 ? found : offered}
        />
      </div>
      {problem && <p className="fault">{problem.message}</p>}
      <Button type="primary" danger disabled={!intoId} loading={merge.running} onClick={() => merge.run()}>
        Merge into this one
      </Button>
    </div>
  );
}

/** Where the work is. */
export function SiteForm({ card, site, close }: { card: CallerCard; site?: SiteOf; close: () => void }) {
  const fields: RecordField[] = [
    { name: "name", label: "Name", hint: "Shed 5, house, rear yard" },
    { name: "address", label: "Address", half: true },
    { name: "postcode", label: "Postcode", half: true },
    { name: "area", label: "Area", half: true },
    { name: "position", label: "Position", hint: "54.0412, -1.2311", half: true },
    { name: "open", label: "Open", hint: "8 to 15:30; empty for always", half: true },
    { name: "accessNotes", label: "How to get in", kind: "area" },
  ];
  return (
    <RecordForm
      title={site ? `Site ${site.name}` : `Another site of ${card.name}`}
      confirm="Save site"
      fields={fields}
      initial={{
        name: site?.name ?? "",
        address: site?.address ?? "",
        postcode: site?.postcode ?? "",
        area: site?.area ?? "",
        position: site?.latitude == null ? "" : `${site.latitude}, ${site.longitude}`,
        open: site?.opens && site.closes ? `${time(site.opens)} to ${time(site.closes)}` : "",
        accessNotes: site?.accessNotes ?? "",
      }}
      version={site?.version ?? 0}
      save={(values, key, version) => {
        const body = {
          version,
          name: text(values.name),
          address: text(values.address),
          postcode: text(values.postcode),
          area: text(values.area),
          position: text(values.position),
          open: text(values.open),
          accessNotes: text(values.accessNotes),
        };
        return site
          ? answer(client.PUT("/api/sites/{id}", { params: { path: { id: site.id } }, body }))
          : answer(
              client.POST("/api/customers/{id}/sites", {
                params: { path: { id: card.id }, ...withKey(key) },
                body,
              }),
            );
      }}
      close={close}
      aside={site && <DeleteButton what={site.name} path="/api/sites/{id}" record={site} close={close} />}
      below={site && <History kind="site" id={site.id} />}
    />
  );
}

/** Whom to speak to, and their part in it. */
export function ContactForm({
  card,
  contact,
  close,
}: {
  card: CallerCard;
  contact?: ContactOf;
  close: () => void;
}) {
  const fields: RecordField[] = [
    { name: "name", label: "Name" },
    { name: "phone", label: "Phone", half: true },
    { name: "email", label: "Mail", half: true },
    {
      name: "siteId",
      label: "At",
      kind: "choice",
      options: card.sites.map((site) => ({ value: site.id, label: site.name })),
      hint: "everywhere",
    },
    { name: "pays", label: "pays", kind: "tick" },
    { name: "opens", label: "opens the gate", kind: "tick" },
    { name: "decides", label: "decides", kind: "tick" },
  ];
  return (
    <RecordForm
      title={contact ? contact.name : `Another contact of ${card.name}`}
      confirm="Save contact"
      fields={fields}
      initial={{
        name: contact?.name ?? "",
        phone: contact?.phone ?? "",
        email: contact?.email ?? "",
        siteId: contact?.siteId ?? undefined,
        pays: contact?.pays ?? false,
        opens: contact?.opens ?? false,
        decides: contact?.decides ?? false,
      }}
      version={contact?.version ?? 0}
      save={(values, key, version) => {
        const body = {
          version,
          siteId: id(values.siteId),
          name: text(values.name),
          phone: text(values.phone) ?? "",
          email: text(values.email),
          pays: values.pays === true,
          opens: values.opens === true,
          decides: values.decides === true,
        };
        return contact
          ? answer(client.PUT("/api/contacts/{id}", { params: { path: { id: contact.id } }, body }))
          : answer(
              client.POST("/api/customers/{id}/contacts", {
                params: { path: { id: card.id }, ...withKey(key) },
                body,
              }),
            );
      }}
      close={close}
      aside={
        contact && (
          <DeleteButton what={contact.name} path="/api/contacts/{id}" record={contact} close={close} />
        )
      }
      below={contact && <History kind="contact" id={contact.id} />}
    />
  );
}

/** What stands at a site; a piece can also take the place of another one, or go elsewhere. */
export function EquipmentForm({
  card,
  siteId,
  piece,
  replacing,
  close,
}: {
  card: CallerCard;
  siteId: number;
  piece?: EquipmentOf;
  replacing?: boolean;
  close: () => void;
}) {
  const { data: choices } = useQuery(queries.customerChoices);
  const kept = replacing ? undefined : piece;
  const fields: RecordField[] = [
    {
      name: "equipmentKindId",
      label: "Kind",
      kind: "choice",
      options: (choices?.equipmentKinds ?? []).map((kind) => ({ value: kind.id, label: kind.name })),
      half: true,
    },
    { name: "model", label: "Model", half: true },
    { name: "serialNumber", label: "Serial number", half: true },
    { name: "fittedOn", label: "Fitted on", hint: "today, 24 nov 2025", half: true },
    { name: "position", label: "Where at the site", hint: "north side, behind the office" },
    { name: "partsWarrantyUntil", label: "Parts under warranty until", hint: "none", half: true },
    { name: "partsWarrantyPercent", label: "which bears, in %", hint: "100", half: true },
    { name: "labourWarrantyUntil", label: "Labour under warranty until", hint: "none", half: true },
    { name: "labourWarrantyPercent", label: "which bears, in %", hint: "100", half: true },
  ];
  return (
    <RecordForm
      title={
        replacing
          ? `In the place of ${piece?.serialNumber}`
          : piece
            ? `${piece.model}, ${piece.serialNumber}`
            : "Another piece of equipment"
      }
      confirm={replacing ? "Replace" : "Save equipment"}
      fields={fields}
      initial={{
        equipmentKindId: piece?.equipmentKindId ?? undefined,
        model: piece?.model ?? "",
        serialNumber: kept?.serialNumber ?? "",
        fittedOn: kept?.fittedOn ?? "",
        position: piece?.position ?? "",
        partsWarrantyUntil: kept?.parts?.until ?? "",
        partsWarrantyPercent: kept?.parts?.percent ?? "",
        labourWarrantyUntil: kept?.labour?.until ?? "",
        labourWarrantyPercent: kept?.labour?.percent ?? "",
      }}
      version={piece?.version ?? 0}
      save={(values, key, version) => {
        const body = {
          version,
          equipmentKindId: id(values.equipmentKindId),
          model: text(values.model),
          serialNumber: text(values.serialNumber),
          fittedOn: text(values.fittedOn),
          position: text(values.position),
          partsWarrantyUntil: text(values.partsWarrantyUntil),
          partsWarrantyPercent: text(values.partsWarrantyPercent),
          labourWarrantyUntil: text(values.labourWarrantyUntil),
          labourWarrantyPercent: text(values.labourWarrantyPercent),
        };
        if (!piece) {
          return answer(
            client.POST("/api/sites/{id}/equipment", {
              params: { path: { id: siteId }, ...withKey(key) },
              body,
            }),
          );
        }
        const path = { id: piece.id };
        return replacing
          ? answer(client.POST("/api/equipment/{id}/replace", { params: { path, ...withKey(key) }, body }))
          : answer(client.PUT("/api/equipment/{id}", { params: { path }, body }));
      }}
      close={close}
      aside={kept && <EquipmentEnds card={card} siteId={siteId} piece={kept} close={close} />}
      below={kept && <History kind="equipment" id={kept.id} />}
    />
  );
}

function EquipmentEnds({
  card,
  siteId,
  piece,
  close,
}: {
  card: CallerCard;
  siteId: number;
  piece: EquipmentOf;
  close: () => void;
}) {
  const [typed, setTyped] = useState("");
  const { data: sites } = useQuery(queries.sites(typed));
  const own = card.sites
    .filter((site) => site.id !== siteId)
    .map((site) => ({ value: site.id, label: `${card.name}, ${site.name}` }));
  const found = (sites ?? [])
    .filter((site) => site.id !== siteId)
    .map((site) => ({ value: site.id, label: `${site.customer}, ${site.site}` }));
  const move = useAct(
    (to: number) =>
      answer(
        client.POST("/api/equipment/{id}/move", {
          params: { path: { id: piece.id } },
          body: { version: piece.version, siteId: to },
        }),
      ),
    { done: close },
  );
  const keepPhoto = useAct(
    async (file: File) => {
      const photo = await smallPhoto(file);
      return answer(
        client.PUT("/api/equipment/{id}/photo", {
          params: { path: { id: piece.id } },
          body: "",
          bodySerializer: () => photo,
          headers: { "Content-Type": photo.type },
        }),
      );
    },
    { said: "The photo is kept." },
  );
  return (
    <>
      <Select
        aria-label="Move it to"
        style={{ width: 150, marginLeft: "auto" }}
        placeholder="Move it to…"
        value={undefined}
        showSearch={{ filterOption: false, onSearch: setTyped }}
        popupMatchSelectWidth={false}
        options={typed.trim() ? found : own}
        onChange={(to: number) => move.run(to)}
      />
      <label className="file-button">
        {piece.photo ? "New photo" : "Photo"}
        <input
          type="file"
          accept="image/*"
          className="visually-hidden"
          onChange={(event) => event.target.files?.[0] && keepPhoto.run(event.target.files[0])}
        />
      </label>
      <DeleteButton what={piece.model} path="/api/equipment/{id}" record={piece} close={close} />
    </>
  );
}
