package app.pragmata.server.mail;

import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.MAIL_SERVER;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.SettingsChanges;
import app.pragmata.server.generated.tables.records.MailServerRecord;
import app.pragmata.server.records.Act;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The server that takes the company's mail. */
@RestController
class MailServerApi {
  /**
   * As it is set; its password is never told again.
   *
   * @param host empty while none is set
   * @param username empty where the server asks nobody who it is
   * @param fromAddress from whom mail comes; empty for the company's own address
   * @param standsIn whether a stand-in takes all mail, whatever is set
   */
  record MailServerSettings(
      int version,
      String host,
      int port,
      MailEncryption encryption,
      String username,
      boolean hasPassword,
      String fromAddress,
      boolean standsIn) {}

  /**
   * The same as typed.
   *
   * @param password empty for the one that is kept
   */
  record MailServerForm(
      int version,
      @Nullable String host,
      @Nullable String port,
      @Nullable MailEncryption encryption,
      @Nullable String username,
      @Nullable String password,
      @Nullable String fromAddress) {}

  record TestMailForm(@Nullable String to) {}

  /** To whom a test mail went. */
  record TestMail(String to) {}

  private static final int LONGEST_HOST = 253;
  private static final int SUBMISSION_PORT = 587;

  private final DSLContext database;
  private final SettingsChanges settings;
  private final CompanyStore companies;
  private final MailServers servers;
  private final @Nullable MailServer standIn;

  MailServerApi(
      DSLContext database,
      SettingsChanges settings,
      CompanyStore companies,
      MailServers servers,
      ObjectProvider<MailServer> standIn) {
    this.database = database;
    this.settings = settings;
    this.companies = companies;
    this.servers = servers;
    this.standIn = standIn.getIfAvailable();
  }

  @GetMapping("/api/settings/mail-server")
  MailServerSettings getMailServer() {
    MailServerRecord row = stored();
    return new MailServerSettings(
        settings.version(),
        row == null ? "" : row.getHost(),
        row == null ? SUBMISSION_PORT : row.getPort(),
        row == null ? MailEncryption.STARTTLS : row.getEncryption(),
        row == null ? "" : row.getUsername(),
        row != null && !row.getPassword().isEmpty(),
        row == null ? "" : row.getFromAddress(),
        standIn != null);
  }

  private @Nullable MailServerRecord stored() {
    return database.selectFrom(MAIL_SERVER).fetchOne();
  }

  /** Sets it; what waits is tried again at once. */
  @PutMapping("/api/settings/mail-server")
  @Transactional
  public MailServerSettings saveMailServer(Act act, @RequestBody MailServerForm form) {
    var reading = new Reading();
    String host = reading.required("host", form.host(), MailServerApi::host);
    Integer port = reading.required("port", form.port(), typed -> Reading.whole(typed, 1, 65_535));
    if (form.encryption() == null) {
      reading.fault("encryption", Rule.MISSING, "Choose how mail is encrypted on its way.");
    }
    String username = reading.optionalText("username", form.username(), 120);
    String password = Objects.requireNonNullElse(form.password(), "");
    String from = reading.optional("fromAddress", form.fromAddress(), MailAddress::parse);
    MailServerRecord before = stored();
    boolean kept =
        before != null
            && !before.getPassword().isEmpty()
            && before.getHost().equals(host)
            && before.getUsername().equals(username);
    if (!username.isEmpty() && password.isEmpty() && !kept) {
      reading.fault("password", Rule.MISSING, "Enter the password of this name.");
    }
    if (password.length() > 200) {
      reading.fault("password", Rule.TOO_LONG, "At most 200 characters fit here.");
    }
    if (!username.isEmpty() && form.encryption() == MailEncryption.NONE && !isLocal(host)) {
      reading.fault(
          "encryption",
          Rule.EASILY_READ,
          "Without encryption everybody on the way could read the password. Choose one.");
    }
    reading.refuseIfFaulty();
    MailServerRecord row = database.newRecord(MAIL_SERVER);
    row.setHost(Objects.requireNonNull(host));
    row.setPort(Objects.requireNonNull(port));
    row.setEncryption(Objects.requireNonNull(form.encryption()));
    row.setUsername(username);
    row.setPassword(
        username.isEmpty()
            ? ""
            : password.isEmpty() ? Objects.requireNonNull(before).getPassword() : password);
    row.setFromAddress(from == null ? "" : from);
    settings.change(
        act, CompanyEvent.MAIL_SERVER_CHANGED, form.version(), values(before), values(row));
    database.deleteFrom(MAIL_SERVER).execute();
    row.insert();
    database
        .update(MAIL)
        .set(MAIL.NEXT_ATTEMPT_AT, act.at())
        .where(MAIL.STATE.eq(MailState.WAITING))
        .execute();
    return getMailServer();
  }

  /** From now on mail waits until another server is set. */
  @DeleteMapping("/api/settings/mail-server")
  @Transactional
  public MailServerSettings removeMailServer(Act act, @RequestParam int version) {
    MailServerRecord before = stored();
    if (before != null) {
      settings.change(act, CompanyEvent.MAIL_SERVER_CHANGED, version, values(before), Map.of());
      before.delete();
    }
    return getMailServer();
  }

  /** Sends a message at once; what the server says against it is told. */
  @PostMapping("/api/settings/mail-server/test")
  TestMail sendTestMail(@RequestBody TestMailForm form) {
    var reading = new Reading();
    String to = reading.required("to", form.to(), MailAddress::parse);
    reading.refuseIfFaulty();
    Wording wording = companies.getCompany().wording();
    servers.sendNow(
        Objects.requireNonNull(to),
        wording.say(Phrase.MAIL_TEST, companies.getCompany().identity().name()),
        wording.say(Phrase.MAIL_TEST_SAYS));
    return new TestMail(to);
  }

  private static String host(String typed) {
    if (typed.length() > LONGEST_HOST || !typed.matches("[A-Za-z0-9.-]+|[0-9a-fA-F:]+")) {
      throw new Unreadable(
          Rule.UNREADABLE, "Enter the server's name, such as smtp.provider.example.");
    }
    return typed;
  }

  private static boolean isLocal(@Nullable String host) {
    return "localhost".equals(host) || "127.0.0.1".equals(host) || "::1".equals(host);
  }

  /** That there is another password is told, and never which. */
  private static Map<String, Object> values(@Nullable MailServerRecord row) {
    var values = new HashMap<String, Object>();
    if (row != null) {
      values.put("host", row.getHost());
      values.put("port", row.getPort());
      values.put("encryption", row.getEncryption());
      values.put("username", row.getUsername());
      values.put("fromAddress", row.getFromAddress());
    }
    return values;
  }
}
