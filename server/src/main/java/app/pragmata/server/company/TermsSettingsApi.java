package app.pragmata.server.company;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.server.company.EnteredTerms.Charges;
import app.pragmata.server.company.EnteredTerms.Costs;
import app.pragmata.server.company.EnteredTerms.Hours;
import app.pragmata.server.company.EnteredTerms.MarkupBands;
import app.pragmata.server.company.EnteredTerms.Pay;
import app.pragmata.server.company.EnteredTerms.RatesOfDay;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The terms from which day on hold what, those to come among them. */
@RestController
class TermsSettingsApi {
  private final TermsSettings settings;
  private final CompanyStore companies;
  private final SettingsChanges changes;

  TermsSettingsApi(TermsSettings settings, CompanyStore companies, SettingsChanges changes) {
    this.settings = settings;
    this.companies = companies;
    this.changes = changes;
  }

  @GetMapping("/api/settings/terms")
  EnteredTerms listEnteredTerms() {
    return EnteredTerms.of(companies.getCompany(), changes.version());
  }

  @PutMapping("/api/settings/terms/working-hours")
  EnteredTerms saveWorkingHours(Act act, @RequestBody TermsForms.HoursForm form) {
    Hours hours = form.read(act.today());
    Hours before = EnteredTerms.on(hours.fromDay(), listEnteredTerms().workingHours());
    settings.saveHours(act, form.version(), before, hours);
    return listEnteredTerms();
  }

  @PutMapping("/api/settings/terms/pay")
  EnteredTerms savePay(Act act, @RequestBody TermsForms.PayForm form) {
    Pay pay = form.read(act.today());
    Pay before = EnteredTerms.on(pay.fromDay(), listEnteredTerms().pay());
    settings.savePay(act, form.version(), before, pay);
    return listEnteredTerms();
  }

  @PutMapping("/api/settings/terms/rates")
  EnteredTerms saveRates(Act act, @RequestBody TermsForms.RatesForm form) {
    RatesOfDay rates = form.read(act.today(), typed());
    RatesOfDay before = EnteredTerms.on(rates.fromDay(), listEnteredTerms().rates());
    settings.saveRates(act, form.version(), before, rates);
    return listEnteredTerms();
  }

  @PutMapping("/api/settings/terms/charges")
  EnteredTerms saveCharges(Act act, @RequestBody TermsForms.ChargesForm form) {
    Charges charges = form.read(act.today(), typed());
    Charges before = EnteredTerms.on(charges.fromDay(), listEnteredTerms().charges());
    settings.saveCharges(act, form.version(), before, charges);
    return listEnteredTerms();
  }

  @PutMapping("/api/settings/terms/costs")
  EnteredTerms saveCosts(Act act, @RequestBody TermsForms.CostsForm form) {
    Costs costs = form.read(act.today(), typed());
    Costs before = EnteredTerms.on(costs.fromDay(), listEnteredTerms().costs());
    settings.saveCosts(act, form.version(), before, costs);
    return listEnteredTerms();
  }

  @PutMapping("/api/settings/terms/markup")
  EnteredTerms saveMarkup(Act act, @RequestBody TermsForms.MarkupForm form) {
    MarkupBands markup = form.read(act.today(), typed());
    MarkupBands before = EnteredTerms.on(markup.fromDay(), listEnteredTerms().markup());
    settings.saveMarkup(act, form.version(), before, markup);
    return listEnteredTerms();
  }

  /** Takes back terms that were to hold from a day that has not come. */
  @DeleteMapping("/api/settings/terms/{kind}/{fromDay}")
  EnteredTerms withdrawTerms(
      Act act,
      @PathVariable String kind,
      @PathVariable LocalDate fromDay,
      @RequestParam int version) {
    TermsSettings.Kind found =
        Coded.find(TermsSettings.Kind.class, kind.replace('-', '_'))
            .orElseThrow(() -> new Refused(Rule.NOT_FOUND, "There are no terms of this kind."));
    settings.withdraw(act, found, version, fromDay);
    return listEnteredTerms();
  }

  private TypedMoney typed() {
    return companies.getCompany().typed();
  }
}
