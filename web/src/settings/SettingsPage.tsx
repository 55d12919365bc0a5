import { ResponseTermsSettings } from "../calls/ResponseTermsSettings";
import { PriceListSettings } from "../customers/PriceListSettings";
import { FirstSteps } from "../founding/FirstSteps";
import { useTitle } from "../kit/useTitle";
import { HolidaySettings } from "../people/HolidaySettings";
import { OwnPassword } from "../people/OwnPassword";
import { PeopleSettings } from "../people/PeopleSettings";
import { QuotingSettings } from "../quoting/QuotingSettings";

/** What the office sets for everything that comes after. */
export default function SettingsPage() {
  useTitle("Settings");
  return (
    <article className="sheet alone" aria-label="Settings">
      <header className="section head">
        <div className="margin" />
        <div className="titled">
          <div>
            <h1>Settings</h1>
            <div className="small soft">
              what you change here holds from the next quote or call on; what was promised stays as it was
            </div>
          </div>
        </div>
      </header>
      <FirstSteps />
      <QuotingSettings />
      <ResponseTermsSettings />
      <PriceListSettings />
      <HolidaySettings />
      <PeopleSettings />
      <OwnPassword />
    </article>
  );
}
