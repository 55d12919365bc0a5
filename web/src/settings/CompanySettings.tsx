import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ChangeEvent, useRef } from "react";
import { answer, client } from "../api/client";
import type { CompanySettings as Company } from "../api/generated/schema";
import { queries } from "../api/queries";
import { time } from "../format";
import { History } from "../history/History";
import { AreaField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { say } from "../kit/useSaid";
import { useMay } from "../people/useMay";
import styles from "./Settings.module.css";

const LARGEST_LOGO = 5_000_000;

/** Who the company is, as its documents say it. */
export function CompanySettings() {
  const { data, error } = useQuery(queries.companySettings);
  const mayChange = useMay("change_settings");
  return (
    <Section name="Company" aside="as documents say it">
      {error && <p className="fault">{error.message}</p>}
      {data && mayChange && <CompanyForm company={data} />}
      {data && !mayChange && (
        <p>
          {[data.name, data.address, data.phone, data.email, data.vatNumber, data.bank, data.iban]
            .filter((part) => part !== "")
            .join(" · ")}
        </p>
      )}
      {data && (
        <p className="small soft">
          Currency {data.currency}, time zone {data.timeZone}, language {data.language}: as the company was
          founded, for its books are kept so.
        </p>
      )}
      <History kind="company" id={1} />
    </Section>
  );
}

/** All of it as it would be typed. */
const typed = ({
  version: _,
  hasLogo: _1,
  currency: _2,
  timeZone: _3,
  language: _4,
  ...company
}: Company) => ({
  ...company,
  deskSessionHours: String(company.deskSessionHours),
  patienceQuotedDays: String(company.patienceQuotedDays),
  patienceWonDays: String(company.patienceWonDays),
  patienceWorkedDays: String(company.patienceWorkedDays),
  patienceCheckedDays: String(company.patienceCheckedDays),
  partWantedDays: String(company.partWantedDays),
  tapPositionDays: String(company.tapPositionDays),
  visitReminderAt: company.visitReminderAt ? time(company.visitReminderAt) : "",
  otherWork: company.otherWork,
});

function CompanyForm({ company }: { company: Company }) {
  const form = useForm(
    {
      version: company.version,
      draft: {
        name: company.name,
        vatNumber: company.vatNumber,
        address: company.address,
        bank: company.bank,
        iban: company.iban.replace(/(.{4})(?!$)/g, "$1 "),
        bic: company.bic,
        phone: company.phone,
        email: company.email,
      },
    },
    "company settings",
  );
  const save = useAct(
    () =>
      answer(
        client.PUT("/api/settings/company", {
          body: { ...typed(company), ...form.draft, version: form.version },
        }),
      ),
    { done: form.saved, refused: form.refused, said: "Kept. What is printed from now on says so." },
  );
  const bind = { form, width: 260 };
  return (
    <InlineForm
      form={form}
      label="Company"
      confirm="Keep the company's details"
      running={save.running}
      submit={() => save.run()}
      overtaken="the company's details"
    >
      <TextField {...bind} name="name" label="Name of the company" needed />
      <TextField {...bind} name="vatNumber" label="VAT number, if there is one" />
      <AreaField {...bind} name="address" label="Address" needed />
      <AreaField {...bind} name="bank" label="Bank account, as written at home" />
      <TextField {...bind} name="iban" label="IBAN, if it has one" />
      <TextField {...bind} name="bic" label="BIC, if it has one" />
      <TextField {...bind} name="phone" label="Phone" />
      <TextField {...bind} name="email" label="Mail address" />
      <Logo company={company} />
    </InlineForm>
  );
}

/** How long money may stand still, and how long a desk stays signed in. */
export function OfficeSettings() {
  const { data } = useQuery(queries.companySettings);
  const mayChange = useMay("change_settings");
  return (
    <Section name="Office">
      {data && mayChange && <OfficeForm company={data} />}
      {data && !mayChange && (
        <p>Whoever works at a desk signs in again after {data.deskSessionHours} hours.</p>
      )}
      <div className="small soft">
        Money that stands longer at a stage of the money line is marked. A part that is wanted is to be seen
        to in so many workdays, an urgent one the same day. Where a phone is when its clock is started or
        stopped or a photo is taken is kept for so many days, if whoever carries it allows it; 0 asks nobody.
        Customers who are told of plans are reminded of a visit at that time on the workday before; left
        empty, nobody is. Whoever works at a desk signs in again after so many hours; technicians after a day.
      </div>
    </Section>
  );
}

function OfficeForm({ company }: { company: Company }) {
  const all = typed(company);
  const form = useForm(
    {
      version: company.version,
      draft: {
        patienceQuotedDays: all.patienceQuotedDays,
        patienceWonDays: all.patienceWonDays,
        patienceWorkedDays: all.patienceWorkedDays,
        patienceCheckedDays: all.patienceCheckedDays,
        partWantedDays: all.partWantedDays,
        tapPositionDays: all.tapPositionDays,
        visitReminderAt: all.visitReminderAt,
        otherWork: all.otherWork,
        deskSessionHours: all.deskSessionHours,
      },
    },
    "office settings",
  );
  const save = useAct(
    () =>
      answer(client.PUT("/api/settings/company", { body: { ...all, ...form.draft, version: form.version } })),
    { done: form.saved, refused: form.refused, said: "Kept." },
  );
  const bind = { form, width: 110, needed: true, figure: true };
  return (
    <InlineForm
      form={form}
      label="Office"
      confirm="Keep patience and hours"
      running={save.running}
      submit={() => save.run()}
      overtaken="these settings"
    >
      <TextField {...bind} name="patienceQuotedDays" label="Quoted, days" />
      <TextField {...bind} name="patienceWonDays" label="Won, days" />
      <TextField {...bind} name="patienceWorkedDays" label="Worked, days" />
      <TextField {...bind} name="patienceCheckedDays" label="Checked, days" />
      <TextField {...bind} width={170} name="partWantedDays" label="Parts wanted, workdays" />
      <TextField {...bind} width={170} name="tapPositionDays" label="Keep places of taps, days" />
      <TextField {...bind} width={170} needed={false} name="visitReminderAt" label="Reminders of visits at" />
      <TextField {...bind} width={150} name="deskSessionHours" label="Signed in, hours" />
      <TextField form={form} width={340} name="otherWork" label="Other paid time, with commas between" />
    </InlineForm>
  );
}

function Logo({ company }: { company: Company }) {
  const mayChange = useMay("change_settings");
  const input = useRef<HTMLInputElement>(null);
  const keep = useAct(
    (file: File) =>
      answer(
        client.PUT("/api/settings/logo", {
          body: file as unknown as string,
          bodySerializer: (body) => body as unknown as Blob,
          headers: { "Content-Type": file.type || "image/unknown" },
        }),
      ),
    { said: "The logo stands on what is printed from now on." },
  );
  const remove = useAct(() => answer(client.DELETE("/api/settings/logo")), { said: "The logo is gone." });

  function choose(event: ChangeEvent<HTMLInputElement>) {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (file && file.size > LARGEST_LOGO) {
      say({ text: "A logo has at most 5 MB. Make it smaller, then add it again.", refused: true });
    } else if (file) {
      keep.run(file);
    }
  }

  return (
    <div className={styles.logo}>
      <div className="small soft">Logo, at the head of documents</div>
      {company.hasLogo && <img src={`/api/settings/logo?${company.version}`} alt="The company's logo" />}
      {mayChange && (
        <div>
          <input
            ref={input}
            type="file"
            accept="image/png,image/jpeg"
            hidden
            aria-label="File of the logo"
            onChange={choose}
          />
          <Button size="small" loading={keep.running} onClick={() => input.current?.click()}>
            {company.hasLogo ? "Choose another logo" : "Choose a logo"}
          </Button>{" "}
          {company.hasLogo && (
            <button type="button" className="plain small" onClick={() => remove.run()}>
              remove the logo
            </button>
          )}
        </div>
      )}
    </div>
  );
}
