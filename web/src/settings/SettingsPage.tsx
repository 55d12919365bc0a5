import { Input } from "antd";
import type { ReactNode } from "react";
import { useSearchParams } from "react-router";
import { AccountsSettings } from "../books/AccountsSettings";
import { ResponseTermsSettings } from "../calls/ResponseTermsSettings";
import { CheckDeskSettings } from "../checkdesk/CheckDeskSettings";
import { PriceListSettings } from "../customers/PriceListSettings";
import { FirstSteps } from "../founding/FirstSteps";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";
import { HolidaySettings } from "../people/HolidaySettings";
import { OwnPassword } from "../people/OwnPassword";
import { OwnSessions } from "../people/OwnSessions";
import { PeopleSettings } from "../people/PeopleSettings";
import { AvailabilitySettings } from "../planning/AvailabilitySettings";
import { KindsOfJobSettings } from "../quoting/KindsOfJobSettings";
import { QuotingSettings } from "../quoting/QuotingSettings";
import { TextsSettings } from "../telling/TextsSettings";
import { CompanySettings, OfficeSettings } from "./CompanySettings";
import { MailServerSettings } from "./MailServerSettings";
import { NumberSettings } from "./NumberSettings";
import styles from "./Settings.module.css";
import { findSections, SECTIONS, type SectionId } from "./sections";
import {
  ChargeSettings,
  CostSettings,
  MarkupSettings,
  PaySettings,
  RateSettings,
  WorkingHoursSettings,
} from "./TermsSettings";
import { VatSettings } from "./VatSettings";

const BODIES: Record<SectionId, ReactNode> = {
  company: <CompanySettings />,
  "working-hours": <WorkingHoursSettings />,
  pay: <PaySettings />,
  rates: <RateSettings />,
  charging: <ChargeSettings />,
  costs: <CostSettings />,
  markup: <MarkupSettings />,
  "price-lists": <PriceListSettings />,
  quotes: <QuotingSettings />,
  "kinds-of-job": <KindsOfJobSettings />,
  "promised-times": <ResponseTermsSettings />,
  holidays: <HolidaySettings />,
  vat: <VatSettings />,
  accounts: <AccountsSettings />,
  numbers: <NumberSettings />,
  mail: <MailServerSettings />,
  texts: <TextsSettings />,
  people: <PeopleSettings />,
  availability: <AvailabilitySettings />,
  office: <OfficeSettings />,
  "check-desk": <CheckDeskSettings />,
  password: <OwnPassword />,
  sessions: <OwnSessions />,
};

/** What the office sets for everything that comes after; a few words find each setting. */
export default function SettingsPage() {
  useTitle("Settings");
  const [address, setAddress] = useSearchParams();
  const typed = address.get("find") ?? "";
  const found = findSections(typed);
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label="Settings">
      <header className={sheet.head}>
        <div className={sheet.margin} />
        <div className={styles.head}>
          <h1>Settings</h1>
          <Input
            className={styles.find}
            aria-label="Search the settings"
            placeholder="Find a setting: iban, pay rise, prefix…"
            allowClear
            value={typed}
            onChange={(event) =>
              setAddress(event.target.value === "" ? {} : { find: event.target.value }, { replace: true })
            }
          />
          <output className="visually-hidden">
            {typed !== "" && `${found.length} of ${SECTIONS.length} sections`}
          </output>
        </div>
      </header>
      {typed === "" && (
        <div className={sheet.section}>
          <div className={sheet.margin} />
          <div className="small soft">
            <p className={styles.about}>
              What you change here holds from its day, or from the next document on; what was promised stays
              as it was.
            </p>
            <nav aria-label="Sections of the settings">
              <ul className={styles.found}>
                {SECTIONS.map((section) => (
                  <li key={section.id}>
                    <a href={`#${section.id}`}>{section.name}</a>
                  </li>
                ))}
              </ul>
            </nav>
          </div>
        </div>
      )}
      {typed === "" && <FirstSteps />}
      {found.map((section) => (
        <div key={section.id} id={section.id} className={styles.place}>
          {BODIES[section.id]}
        </div>
      ))}
      {found.length === 0 && (
        <p className={styles.none}>
          Nothing is set by these words. Look for another, or{" "}
          <button type="button" className="plain" onClick={() => setAddress({}, { replace: true })}>
            see all settings
          </button>
          .
        </p>
      )}
    </article>
  );
}
