package app.pragmata.server;

import static app.pragmata.server.FoundedCompany.done;
import static java.time.DayOfWeek.FRIDAY;
import static java.time.DayOfWeek.MONDAY;
import static java.time.DayOfWeek.THURSDAY;
import static java.time.DayOfWeek.TUESDAY;
import static java.time.DayOfWeek.WEDNESDAY;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import app.pragmata.server.staff.Leavers;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the office sets, in a company of its own that nobody else tests with. */
class SettingsTest {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private static FoundedCompany company;
  private static Visitor office;

  @BeforeAll
  static void found() {
    company = new FoundedCompany("settings", "2026-11-24T06:00:00Z");
    office = company.office();
  }

  @AfterAll
  static void stop() {
    company.close();
  }

  /** Whatever was set, the books hold. */
  @AfterEach
  void the_books_hold() {
    assertThat(Laws.check(company.database())).allMatch(Laws.Finding::holds);
  }

  private static int version() {
    return done(office.get("/api/settings/company")).path("version").asInt();
  }

  private static Map<String, Object> form(Object... namesAndValues) {
    var form = new HashMap<String, Object>(Map.of("version", version()));
    for (int i = 0; i < namesAndValues.length; i += 2) {
      form.put((String) namesAndValues[i], namesAndValues[i + 1]);
    }
    return form;
  }

  private static Visitor.Answer wage(String wage, String fromDay) {
    JsonNode eero = employee("eero");
    return office.put(
        "/api/staff/" + eero.path("id").asLong(),
        Map.of(
            "version",
            eero.path("version").asInt(),
            "name",
            "Eero Salo",
            "role",
            "technician",
            "wagePerHour",
            wage,
            "onCostPercent",
            "25",
            "fromDay",
            fromDay));
  }

  private static JsonNode employee(String username) {
    for (JsonNode one : done(office.get("/api/staff"))) {
      if (one.path("username").asString().equals(username)) {
        return one;
      }
    }
    throw new AssertionError(username);
  }

  private static long cost(long job) {
    return company.sheet(job).path("cost").path("actualMinor").asLong();
  }

  @Test
  void a_pay_rise_from_next_monday_changes_mondays_costs_and_none_before() {
    company.next(TUESDAY);
    done(wage("22.80", "mon"));
    assertThat(employee("eero").path("wagePerHour").asString()).isEqualTo("19");
    assertThat(employee("eero").path("comingWages")).hasSize(1);
    long friday = company.checkedJob(company.next(FRIDAY));
    long monday = company.checkedJob(company.next(MONDAY));
    // Two hours at 19.00, then at 22.80, with 25 % of on-costs; ten miles at 0.60.
    assertThat(cost(friday)).isEqualTo(47_51 + 6_00);
    assertThat(cost(monday)).isEqualTo(57_00 + 6_00);
    done(wage("19.00", "today"));
  }

  @Test
  void a_wage_that_is_to_come_can_be_taken_back_and_one_that_holds_cannot() {
    String today = company.next(TUESDAY);
    done(wage("30", "fri"));
    JsonNode eero = employee("eero");
    String coming = eero.path("comingWages").path(0).path("fromDay").asString();
    String wages = "/api/staff/" + eero.path("id").asLong() + "/wages/";
    String version = "?version=" + eero.path("version").asInt();
    assertThat(office.delete(wages + today + version).rule()).isEqualTo("DAY_PASSED");
    done(office.delete(wages + coming + version));
    assertThat(employee("eero").path("comingWages")).isEmpty();
  }

  @Test
  void another_hourly_rate_is_charged_from_its_day_on() {
    company.next(WEDNESDAY);
    Map<String, Object> rates =
        form(
            "fromDay",
            "fri",
            "classes",
            List.of(
                Map.of("rateClass", "normal", "chargePerHour", "80", "costPercent", "100"),
                Map.of("rateClass", "overtime", "chargePerHour", "120", "costPercent", "150"),
                Map.of("rateClass", "night", "chargePerHour", "160", "costPercent", "200")));
    done(office.put("/api/settings/terms/rates", rates));
    long before = company.checkedJob(company.next(THURSDAY));
    long after = company.checkedJob(company.next(FRIDAY));
    // An hour and a half at 68.00, then at 80.00, and a call-out at 55.00.
    assertThat(company.invoice(before).path("netMinor").asLong()).isEqualTo(102_00 + 55_00);
    assertThat(company.invoice(after).path("netMinor").asLong()).isEqualTo(120_00 + 55_00);
  }

  @ParameterizedTest
  @CsvSource({
    "costs, '{\"standardCostPerHour\":\"30\",\"overheadPerHour\":\"5\",\"costPerMile\":\"0.5\",\"fromDay\":\"2026-11-23\"}', fromDay, DAY_PASSED",
    "costs, '{\"standardCostPerHour\":\"30\",\"overheadPerHour\":\"5\",\"costPerMile\":\"0.5\",\"fromDay\":\"2036-11-23\"}', fromDay, TOO_LARGE",
    "costs, '{\"standardCostPerHour\":\"0\",\"overheadPerHour\":\"5\",\"costPerMile\":\"0.5\",\"fromDay\":\"+1\"}', standardCostPerHour, MISSING",
    "costs, '{\"standardCostPerHour\":\"30\",\"overheadPerHour\":\"99999\",\"costPerMile\":\"1\",\"fromDay\":\"+1\"}', overheadPerHour, TOO_LARGE",
    "charges, '{\"stepMinutes\":\"0\",\"minimumMinutes\":\"60\",\"driveCharge\":\"none\",\"otherMarkupPercent\":\"10\",\"paymentDays\":\"14\",\"fromDay\":\"+1\"}', stepMinutes, UNREADABLE",
    "markup, '{\"fromDay\":\"+1\",\"bands\":[]}', bands, NO_LINES",
    "markup, '{\"fromDay\":\"+1\",\"bands\":[{\"upToCost\":\"20\",\"markupPercent\":\"90\"},{\"upToCost\":\"20.00\",\"markupPercent\":\"50\"}]}', bands/1/upToCost, REPEATED",
    "rates, '{\"fromDay\":\"+1\",\"classes\":[{\"rateClass\":\"normal\",\"chargePerHour\":\"80\",\"costPercent\":\"100\"}]}', classes, MISSING",
    "working-hours, '{\"fromDay\":\"+1\",\"normalDays\":[],\"normalFrom\":\"7\",\"normalTo\":\"16\",\"nightFrom\":\"22\",\"nightTo\":\"6\",\"onHolidays\":\"night\"}', normalDays, MISSING",
    "working-hours, '{\"fromDay\":\"+1\",\"normalDays\":[1],\"normalFrom\":\"7\",\"normalTo\":\"6\",\"nightFrom\":\"22\",\"nightTo\":\"6\",\"onHolidays\":\"night\"}', normalTo, ENDS_BEFORE_START"
  })
  void terms_that_cannot_be_are_refused_at_their_field(
      String kind, String body, String field, String rule) {
    var form = new HashMap<String, Object>(Map.of("version", version()));
    form.putAll(JSON.readValue(body, new TypeReference<Map<String, Object>>() {}));
    Visitor.Answer answer = office.put("/api/settings/terms/" + kind, form);
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.pointer()).isEqualTo("/" + field);
    assertThat(answer.rule()).isEqualTo(rule);
  }

  private static Map<String, Object> costs(String fromDay) {
    return form(
        "fromDay", fromDay,
        "standardCostPerHour", "31",
        "overheadPerHour", "6",
        "costPerMile", "0.6");
  }

  @Test
  void terms_to_come_are_taken_back_and_those_that_hold_are_not() {
    String today = company.next(MONDAY);
    done(office.put("/api/settings/terms/costs", costs("today")));
    JsonNode entered = done(office.put("/api/settings/terms/costs", costs("fri")));
    String coming = entered.path("costs").path(0).path("fromDay").asString();
    String terms = "/api/settings/terms/costs/";
    assertThat(office.delete(terms + today + "?version=" + version()).rule())
        .isEqualTo("DAY_PASSED");
    JsonNode left = done(office.delete(terms + coming + "?version=" + version()));
    assertThat(left.path("costs")).hasSize(entered.path("costs").size() - 1);
  }

  @Test
  void settings_are_not_changed_from_an_old_picture_of_them() {
    Map<String, Object> late = costs("+30");
    done(office.put("/api/settings/terms/costs", late));
    assertThat(office.put("/api/settings/terms/costs", late).rule()).isEqualTo("STALE_VERSION");
  }

  @Test
  void promised_times_hold_from_their_day_and_are_taken_back_before() {
    company.next(TUESDAY);
    JsonNode terms = done(office.get("/api/settings/response-terms")).path(0);
    String path = "/api/settings/response-terms/" + terms.path("id").asLong();
    List<Map<String, Object>> times =
        Stream.of("emergency", "urgent", "normal", "low")
            .<Map<String, Object>>map(
                priority -> Map.of("priority", priority, "time", "3:00", "aroundTheClock", true))
            .toList();
    JsonNode changed =
        done(office.put(
                path,
                Map.of(
                    "version",
                    terms.path("version").asInt(),
                    "name",
                    terms.path("name").asString(),
                    "fromDay",
                    "fri",
                    "times",
                    times)))
            .path(0);
    assertThat(changed.path("times")).isEqualTo(terms.path("times"));
    JsonNode coming = changed.path("coming").path(0);
    assertThat(coming.path("times").path(3).path("minutes").asInt()).isEqualTo(180);
    String day = coming.path("fromDay").asString();
    assertThat(
            done(office.delete(path + "/" + day + "?version=" + changed.path("version").asInt()))
                .path(0)
                .path("coming"))
        .isEmpty();
  }

  private static Map<String, Object> identity(String iban) {
    return form(
        "name", "Kivirannan Portti Oy",
        "address", "Satamakatu 4",
        "iban", iban,
        "bic", "NDEAFIHH",
        "deskSessionHours", "8",
        "patienceQuotedDays", "14",
        "patienceWonDays", "5",
        "patienceWorkedDays", "3",
        "patienceCheckedDays", "3",
        "partWantedDays", "1",
        "tapPositionDays", "90",
        "visitReminderAt", "15:30",
        "otherWork", "Yard, Training, Van");
  }

  @Test
  void a_bank_account_with_a_wrong_check_sum_is_refused_and_a_right_one_is_printed() {
    Visitor.Answer wrong = office.put("/api/settings/company", identity("FI21 1234 5600 0007 86"));
    assertThat(wrong.pointer()).isEqualTo("/iban");
    assertThat(wrong.rule()).isEqualTo("WRONG_CHECK_SUM");
    done(office.put("/api/settings/company", identity("FI21 1234 5600 0007 85")));
    long invoice = company.invoice(company.checkedJob(company.next(WEDNESDAY))).path("id").asLong();
    assertThat(
            done(office.get("/api/invoices/" + invoice))
                .path("document")
                .path("seller")
                .path("bank")
                .asString())
        .isEqualTo("IBAN FI21 1234 5600 0007 85, BIC NDEAFIHH");
  }

  private static Visitor.Answer logo(String mediaType, byte[] content) {
    return office.putStream(
        "/api/settings/logo", mediaType, () -> new ByteArrayInputStream(content));
  }

  @Test
  void a_logo_is_a_picture_and_nothing_else() throws IOException {
    String script = "<svg xmlns=\"http://www.w3.org/2000/svg\"><script>alert(1)</script></svg>";
    assertThat(logo("image/svg+xml", script.getBytes(StandardCharsets.UTF_8)).rule())
        .isEqualTo("UNREADABLE");
    assertThat(logo("image/png", new byte[40_000_000]).status()).isEqualTo(413);
    var picture = new ByteArrayOutputStream();
    ImageIO.write(new BufferedImage(60, 20, BufferedImage.TYPE_INT_RGB), "png", picture);
    assertThat(done(logo("image/png", picture.toByteArray())).path("hasLogo").asBoolean()).isTrue();
    assertThat(
            ImageIO.read(new ByteArrayInputStream(office.bytes("/api/settings/logo"))).getWidth())
        .isEqualTo(60);
    assertThat(done(office.delete("/api/settings/logo")).path("hasLogo").asBoolean()).isFalse();
    assertThat(office.get("/api/settings/logo").status()).isEqualTo(404);
  }

  private static Visitor.Answer numbers(String series, String next, String prefix) {
    return office.put(
        "/api/settings/number-series/" + series, form("nextNumber", next, "prefix", prefix));
  }

  @Test
  void a_number_series_goes_forward_with_a_prefix_and_never_back() {
    JsonNode before = company.invoice(company.checkedJob(company.next(WEDNESDAY)));
    long given = before.path("number").asLong();
    assertThat(numbers("invoice", Long.toString(given), "").rule()).isEqualTo("NUMBER_GIVEN");
    done(numbers("invoice", "27001", "inv-"));
    JsonNode after = company.invoice(company.checkedJob(company.next(WEDNESDAY)));
    assertThat(after.path("number").asLong()).isEqualTo(27_001);
    assertThat(printed(after)).isEqualTo("INV-27001");
    assertThat(printed(before)).isEqualTo(Long.toString(given));
    assertThat(done(office.get("/api/find?q=inv-27001")).path(0).path("title").asString())
        .contains("Invoice 27001");
    assertThat(numbers("invoice", "27002", "so long a prefix").pointer()).isEqualTo("/prefix");
  }

  private static String printed(JsonNode invoice) {
    return done(office.get("/api/invoices/" + invoice.path("id").asLong()))
        .path("document")
        .path("printedNumber")
        .asString();
  }

  private static Visitor.Answer postTo(String category, String account) {
    return office.put("/api/settings/posting-accounts/" + category, form("accountCode", account));
  }

  @Test
  void what_is_sold_from_now_on_goes_to_another_account_and_what_was_sold_stays() {
    company.invoice(company.checkedJob(company.next(WEDNESDAY)));
    done(
        office.post(
            "/api/settings/accounts", form("code", "3999", "name", "Huolto", "kind", "income")));
    assertThat(balance("3999")).isZero();
    done(postTo("sales_labour", "3999"));
    long old = balance(account("sales_call_out"));
    JsonNode invoice = company.invoice(company.checkedJob(company.next(WEDNESDAY)));
    // The call-out at 55.00 goes where it went.
    assertThat(balance("3999")).isEqualTo(55_00 - invoice.path("netMinor").asLong());
    assertThat(balance(account("sales_call_out"))).isEqualTo(old - 55_00);
    assertThat(office.delete("/api/settings/accounts/3999?version=" + version()).rule())
        .isEqualTo("IN_USE");
  }

  private static String account(String category) {
    for (JsonNode posting : done(office.get("/api/settings/accounts")).path("postings")) {
      if (posting.path("category").asString().equals(category)) {
        return posting.path("accountCode").asString();
      }
    }
    throw new AssertionError(category);
  }

  private static long balance(String account) {
    return company
        .database()
        .fetchSingle(
            "select coalesce(sum(debit_minor - credit_minor), 0) from journal_line where account_code = ?",
            account)
        .get(0, Long.class);
  }

  @Test
  void a_control_account_that_holds_money_does_not_move_and_nothing_goes_to_a_wrong_kind() {
    company.invoice(company.checkedJob(company.next(WEDNESDAY)));
    done(
        office.post(
            "/api/settings/accounts", form("code", "1799", "name", "Toinen", "kind", "asset")));
    assertThat(postTo("trade_debtors", "1799").rule()).isEqualTo("IN_USE");
    assertThat(postTo("sales_parts", "1799").rule()).isEqualTo("WRONG_KIND");
    assertThat(postTo("sales_parts", "7777").rule()).isEqualTo("NOT_FOUND");
    done(office.delete("/api/settings/accounts/1799?version=" + version()));
  }

  @Test
  void a_percent_of_vat_holds_from_its_day_on() {
    company.next(MONDAY);
    done(
        office.put(
            "/api/settings/vat/standard", form("usual", true, "percent", "26", "fromDay", "fri")));
    JsonNode before = company.invoice(company.checkedJob(company.next(WEDNESDAY)));
    JsonNode after = company.invoice(company.checkedJob(company.next(MONDAY)));
    assertThat(vat(before)).isEqualTo("25.5");
    assertThat(vat(after)).isEqualTo("26");
    assertThat(
            office
                .put(
                    "/api/settings/vat/standard",
                    form("usual", false, "percent", "26", "fromDay", "+1"))
                .pointer())
        .isEqualTo("/usual");
    assertThat(
            office
                .post(
                    "/api/settings/vat", form("code", "koulutus", "category", "E", "usual", false))
                .pointer())
        .isEqualTo("/reason");
  }

  private static String vat(JsonNode invoice) {
    return new BigDecimal(
            done(office.get("/api/invoices/" + invoice.path("id").asLong()))
                .path("document")
                .path("vat")
                .path(0)
                .path("percent")
                .asString())
        .stripTrailingZeros()
        .toPlainString();
  }

  private static Map<String, Object> kind(String name) {
    return form(
        "name", name,
        "promise", "fixed_price",
        "defaultMinutes", "2:00",
        "costCentre", "repairs",
        "usualForCalls", false);
  }

  @Test
  void a_kind_of_job_is_added_changed_and_goes_while_nothing_is_of_it() {
    JsonNode added =
        find(done(office.post("/api/settings/kinds-of-job", kind("Takuutyö"))), "Takuutyö");
    assertThat(added.path("defaultMinutes").asInt()).isEqualTo(120);
    String path = "/api/settings/kinds-of-job/" + added.path("id").asLong();
    assertThat(
            find(done(office.put(path, kind("Takuukäynti"))), "Takuukäynti").path("uses").asInt())
        .isZero();
    assertThat(office.put(path, kind("Korjaus")).pointer()).isEqualTo("/name");
    done(office.delete(path + "?version=" + version()));
    JsonNode used = find(done(office.get("/api/settings/kinds-of-job")), "Korjaus");
    assertThat(
            office
                .delete(
                    "/api/settings/kinds-of-job/"
                        + used.path("id").asLong()
                        + "?version="
                        + version())
                .rule())
        .isEqualTo("IN_USE");
  }

  private static JsonNode find(JsonNode settings, String name) {
    for (JsonNode kind : settings.path("kinds")) {
      if (kind.path("name").asString().equals(name)) {
        return kind;
      }
    }
    throw new AssertionError(name);
  }

  private static Map<String, Object> server(int port, String encryption, String username) {
    return form(
        "host",
        "127.0.0.1",
        "port",
        Integer.toString(port),
        "encryption",
        encryption,
        "username",
        username,
        "password",
        username.isEmpty() ? "" : "sesame street 9",
        "fromAddress",
        "toimisto@kiviranta.example");
  }

  @Test
  void a_test_message_goes_out_by_the_mail_server_whose_password_is_never_told() throws Exception {
    String test = "/api/settings/mail-server/test";
    done(office.delete("/api/settings/mail-server?version=" + version()));
    assertThat(office.post(test, Map.of("to", "aino@kiviranta.example")).rule())
        .isEqualTo("NO_MAIL_SERVER");
    var mail = new GreenMail(new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));
    mail.start();
    try {
      int port = mail.getSmtp().getPort();
      mail.setUser("toimisto@kiviranta.example", "toimisto", "sesame street 9");
      Visitor.Answer kept =
          office.put("/api/settings/mail-server", server(port, "none", "toimisto"));
      assertThat(done(kept).path("hasPassword").asBoolean()).isTrue();
      assertThat(kept.text()).doesNotContain("sesame");
      done(office.post(test, Map.of("to", "aino@kiviranta.example")));
      assertThat(mail.getReceivedMessages()).hasSize(1);
      assertThat(mail.getReceivedMessages()[0].getFrom()[0].toString())
          .isEqualTo("toimisto@kiviranta.example");
      assertThat(
              company
                  .database()
                  .fetchSingle(
                      "select string_agg(before::text || after::text, '') from audit_entry")
                  .get(0, String.class))
          .doesNotContain("sesame");
    } finally {
      mail.stop();
    }
    assertThat(office.post(test, Map.of("to", "aino@kiviranta.example")).rule())
        .isEqualTo("DECLINED");
  }

  @ParameterizedTest
  @ValueSource(strings = {"smtp provider example", "http://x", "-1"})
  void a_password_goes_nowhere_in_the_clear_and_a_host_is_a_name(String host) {
    Map<String, Object> form = server(587, "none", "toimisto");
    form.put("host", host.equals("-1") ? "smtp.provider.example" : host);
    Visitor.Answer answer = office.put("/api/settings/mail-server", form);
    assertThat(answer.pointer()).isEqualTo(host.equals("-1") ? "/encryption" : "/host");
  }

  @Test
  void somebody_leaves_when_their_last_day_is_over() {
    company.next(MONDAY);
    long id =
        done(office.post(
                "/api/staff",
                Map.of(
                    "version", 0,
                    "name", "Kesäapu",
                    "username", "kesa",
                    "role", "office")))
            .path("id")
            .asLong();
    done(
        office.post(
            "/api/staff/" + id + "/leave",
            Map.of("version", employee("kesa").path("version").asInt(), "lastDay", "wed")));
    Leavers leavers = company.bean(Leavers.class);
    leavers.letGo();
    assertThat(employee("kesa").path("active").asBoolean()).isTrue();
    company.next(WEDNESDAY);
    leavers.letGo();
    assertThat(employee("kesa").path("active").asBoolean()).isTrue();
    company.next(THURSDAY);
    leavers.letGo();
    assertThat(employee("kesa").path("active").asBoolean()).isFalse();
  }

  @Test
  void sessions_are_listed_and_ended_one_by_one() {
    Visitor here = company.signedIn("liisa");
    Visitor there = company.signedIn("liisa");
    JsonNode open = done(here.get("/api/sessions"));
    assertThat(open.size()).isGreaterThanOrEqualTo(2);
    for (JsonNode session : open) {
      assertThat(session.has("sessionId")).isFalse();
    }
    done(here.delete("/api/sessions"));
    assertThat(there.get("/api/sessions").status()).isEqualTo(401);
    JsonNode own = done(here.get("/api/sessions")).path(0);
    assertThat(own.path("here").asBoolean()).isTrue();
    assertThat(office.delete("/api/sessions/" + own.path("id").asLong()).status()).isEqualTo(404);
  }
}
