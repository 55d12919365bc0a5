package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.COMPANY_LOGO;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.company.BankAccount;
import app.pragmata.core.company.OtherWork;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.server.generated.tables.records.CompanyRecord;
import app.pragmata.server.http.BodyLimit;
import app.pragmata.server.pictures.Pictures;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.Versions;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.LocalTime;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Who the company is, as its documents say it, and how the office works. */
@RestController
class CompanySettingsApi {
  /**
   * As it stands; what was printed stays as it was.
   *
   * @param bank the account as it is written at home; may be empty, and so may IBAN and BIC
   * @param deskSessionHours so long after the sign-in those who work at a desk sign in again
   * @param patienceQuotedDays for so many days money may stand at a stage before it is marked
   * @param partWantedDays in so many working days somebody is to have seen to a part that is wanted
   * @param tapPositionDays for so many days it is kept where a clock was tapped; 0 for not at all
   * @param visitReminderAt when customers are reminded of the next workday's visits; null for never
   * @param otherWork what people are paid for beside visits, with commas between; may be empty
   */
  record CompanySettings(
      int version,
      String name,
      String address,
      String phone,
      String email,
      String vatNumber,
      String bank,
      String iban,
      String bic,
      boolean hasLogo,
      String currency,
      String timeZone,
      String language,
      int deskSessionHours,
      int patienceQuotedDays,
      int patienceWonDays,
      int patienceWorkedDays,
      int patienceCheckedDays,
      int partWantedDays,
      int tapPositionDays,
      @Nullable LocalTime visitReminderAt,
      String otherWork) {}

  /** The same as typed. */
  record CompanySettingsForm(
      int version,
      @Nullable String name,
      @Nullable String address,
      @Nullable String phone,
      @Nullable String email,
      @Nullable String vatNumber,
      @Nullable String bank,
      @Nullable String iban,
      @Nullable String bic,
      @Nullable String deskSessionHours,
      @Nullable String patienceQuotedDays,
      @Nullable String patienceWonDays,
      @Nullable String patienceWorkedDays,
      @Nullable String patienceCheckedDays,
      @Nullable String partWantedDays,
      @Nullable String tapPositionDays,
      @Nullable String visitReminderAt,
      @Nullable String otherWork) {}

  private static final int LARGEST_LOGO = 5_000_000;

  private final DSLContext database;
  private final Events events;
  private final ApplicationEventPublisher changes;
  private final Logo logo;

  CompanySettingsApi(
      DSLContext database, Events events, ApplicationEventPublisher changes, Logo logo) {
    this.database = database;
    this.events = events;
    this.changes = changes;
    this.logo = logo;
  }

  @GetMapping("/api/settings/company")
  CompanySettings getCompanySettings() {
    return settings(database.selectFrom(COMPANY).fetchSingle());
  }

  private CompanySettings settings(CompanyRecord row) {
    return new CompanySettings(
        row.getVersion(),
        row.getName(),
        row.getAddress(),
        row.getPhone(),
        row.getEmail(),
        row.getVatNumber(),
        row.getBank(),
        row.getIban(),
        row.getBic(),
        database.fetchExists(COMPANY_LOGO),
        row.getCurrency(),
        row.getTimeZone(),
        row.getLocale(),
        row.getDeskSessionHours(),
        row.getPatienceQuotedDays(),
        row.getPatienceWonDays(),
        row.getPatienceWorkedDays(),
        row.getPatienceCheckedDays(),
        row.getPartWantedDays(),
        row.getTapPositionDays(),
        row.getVisitReminderAt(),
        new OtherWork(List.of(row.getOtherWork())).text());
  }

  @PutMapping("/api/settings/company")
  @Transactional
  public CompanySettings saveCompanySettings(Act act, @RequestBody CompanySettingsForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), 120);
    String address = reading.text("address", form.address(), 300);
    String phone = reading.optionalText("phone", form.phone(), 40);
    String email = reading.optional("email", form.email(), MailAddress::parse);
    String vatNumber = reading.optionalText("vatNumber", form.vatNumber(), 30);
    String bank = reading.optionalText("bank", form.bank(), 200);
    String iban = reading.optional("iban", form.iban(), BankAccount::parseIban);
    String bic = reading.optional("bic", form.bic(), BankAccount::parseBic);
    Integer hours =
        reading.required(
            "deskSessionHours", form.deskSessionHours(), typed -> Reading.whole(typed, 1, 24));
    Integer quoted = days(reading, "patienceQuotedDays", form.patienceQuotedDays());
    Integer won = days(reading, "patienceWonDays", form.patienceWonDays());
    Integer worked = days(reading, "patienceWorkedDays", form.patienceWorkedDays());
    Integer checked = days(reading, "patienceCheckedDays", form.patienceCheckedDays());
    Integer partWanted =
        reading.required(
            "partWantedDays", form.partWantedDays(), typed -> Reading.whole(typed, 0, 30));
    Integer tapPositions =
        reading.required(
            "tapPositionDays", form.tapPositionDays(), typed -> Reading.whole(typed, 0, 365));
    LocalTime reminderAt =
        reading.optional("visitReminderAt", form.visitReminderAt(), Day::parseTime);
    OtherWork otherWork = reading.optional("otherWork", form.otherWork(), OtherWork::parse);
    reading.refuseIfFaulty();
    CompanyRecord row = database.selectFrom(COMPANY).forUpdate().fetchSingle();
    Versions.require(form.version(), row.getVersion());
    row.setName(name);
    row.setAddress(address);
    row.setPhone(phone);
    row.setEmail(email == null ? "" : email);
    row.setVatNumber(vatNumber);
    row.setBank(bank);
    row.setIban(iban == null ? "" : iban);
    row.setBic(bic == null ? "" : bic);
    row.setDeskSessionHours(Objects.requireNonNull(hours).shortValue());
    row.setPatienceQuotedDays(Objects.requireNonNull(quoted).shortValue());
    row.setPatienceWonDays(Objects.requireNonNull(won).shortValue());
    row.setPatienceWorkedDays(Objects.requireNonNull(worked).shortValue());
    row.setPatienceCheckedDays(Objects.requireNonNull(checked).shortValue());
    row.setPartWantedDays(Objects.requireNonNull(partWanted).shortValue());
    row.setTapPositionDays(Objects.requireNonNull(tapPositions).shortValue());
    row.setVisitReminderAt(reminderAt);
    row.setOtherWork(otherWork == null ? new String[0] : otherWork.names().toArray(String[]::new));
    events.store(act, CompanyEvent.COMPANY_CHANGED, row);
    changes.publishEvent(new SettingsChanged());
    return settings(row);
  }

  private static @Nullable Integer days(Reading reading, String field, @Nullable String typed) {
    return reading.required(field, typed, text -> Reading.whole(text, 1, 365));
  }

  @GetMapping("/api/settings/logo")
  ResponseEntity<byte[]> getLogo() {
    return logo.answer();
  }

  /** A logo as JPEG or PNG, at most 5 MB; it is kept as a picture and nothing else. */
  @PutMapping(path = "/api/settings/logo", consumes = "image/*")
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(mediaType = "image/*", schema = @Schema(type = "string", format = "binary")))
  CompanySettings keepLogo(Act act, HttpServletRequest request) throws IOException {
    byte[] png =
        Pictures.logo(
            BodyLimit.read(
                request,
                LARGEST_LOGO,
                "A logo has at most 5 MB. Make it smaller, then add it again."));
    logo.keep(act, png);
    return getCompanySettings();
  }

  @DeleteMapping("/api/settings/logo")
  CompanySettings removeLogo(Act act) {
    logo.remove(act);
    return getCompanySettings();
  }
}
