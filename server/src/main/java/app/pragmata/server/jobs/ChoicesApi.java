package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.KIND_OF_JOB;

import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** What the forms about work offer to choose from. */
@RestController
class ChoicesApi {
  /**
   * A kind of job.
   *
   * @param promise what its quotes promise unless they say otherwise
   * @param usualForCalls what a job straight from a call is taken for unless said otherwise
   */
  record KindOfJob(
      long id, String name, PromiseKind promise, int defaultMinutes, boolean usualForCalls) {}

  /**
   * What forms offer to choose from.
   *
   * @param driveCharge how the company charges driving
   */
  record Choices(
      List<PeopleStore.Colleague> technicians,
      List<PeopleStore.Colleague> officePeople,
      List<KindOfJob> kindsOfJob,
      List<VatChoice> vatTreatments,
      DriveCharge.Rule driveCharge) {}

  /** A treatment of VAT; the usual one is taken where nobody says another. */
  record VatChoice(String code, String words, boolean usual) {}

  private final PeopleStore people;
  private final CompanyStore companies;
  private final DSLContext database;

  ChoicesApi(PeopleStore people, CompanyStore companies, DSLContext database) {
    this.people = people;
    this.companies = companies;
    this.database = database;
  }

  @GetMapping("/api/choices")
  Choices listChoices(Act act) {
    Company company = companies.getCompany();
    return new Choices(
        people.listTechnicians(),
        people.listOfficePeople(),
        database
            .selectFrom(KIND_OF_JOB)
            .orderBy(KIND_OF_JOB.NAME)
            .fetch(
                row ->
                    new KindOfJob(
                        row.getId(),
                        row.getName(),
                        row.getPromise(),
                        row.getDefaultMinutes(),
                        row.getUsualForCalls())),
        company.terms().vat().listOn(act.today()).stream()
            .map(
                each ->
                    new VatChoice(
                        each.code(),
                        company.wording().vat(each.group()),
                        each.code().equals(company.terms().vat().usualCode())))
            .toList(),
        company.terms().charge().on(act.today()).drive().rule());
  }
}
