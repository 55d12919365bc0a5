package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.SENT_REPORT;
import static app.pragmata.server.generated.Tables.TEXT_MESSAGE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.generated.tables.records.CustomerRecord;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** The customer's page of a job, and the reports of its visits. */
class JobPagesTest {
  private static final String MAIL_ADDRESS = "yard@harbour.example";

  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor customer = new Visitor(program);
  private SwingGate gate;
  private long customerId;
  private CustomerRecord before;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "ngozi").planned();
    customerId = program.database().fetchValue(JOB.CUSTOMER_ID, JOB.ID.eq(gate.job()));
    before =
        program.database().selectFrom(CUSTOMER).where(CUSTOMER.ID.eq(customerId)).fetchSingle();
    reachedBy(MAIL_ADDRESS, "01632 960100");
    gets("none");
  }

  @AfterEach
  void asBefore() {
    gets("none");
    reachedBy(before.getEmail(), before.getPhone());
  }

  private void reachedBy(String mail, String phone) {
    program
        .database()
        .update(CUSTOMER)
        .set(CUSTOMER.EMAIL, mail)
        .set(CUSTOMER.PHONE, phone)
        .where(CUSTOMER.ID.eq(customerId))
        .execute();
  }

  private void gets(String reportCopy) {
    assertThat(
            gate.office()
                .put(
                    "/api/customers/" + customerId + "/told-by",
                    Map.of("plan", "nobody", "coming", "nobody", "reportCopy", reportCopy))
                .status())
        .isEqualTo(200);
  }

  private void work() {
    gate.at("14:20");
    gate.tap("drive", Map.of());
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "18.4"));
    gate.tap("start-work", Map.of());
    gate.at("16:30");
  }

  private void finish(Map<String, Object> said) {
    assertThat(gate.tap("finish", said).json().path("state").asString()).isEqualTo("finished");
  }

  private void finish() {
    work();
    finish(Map.of("note", "Ram changed, gate runs true"));
  }

  private JsonNode officesView() {
    return gate.office().get("/api/jobs/" + gate.job() + "/customer-page").json();
  }

  /** The path of the page behind the job's link, which is made where there is none. */
  private String page() {
    String address =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/customer-page", Map.of())
            .json()
            .path("address")
            .asString();
    assertThat(address).startsWith("http://ferrow.example/work/");
    return "/api/job-pages/" + address.substring(address.lastIndexOf('/') + 1);
  }

  private Visitor.Answer sign(String page) {
    return customer.post(
        page + "/visits/" + gate.visit() + "/signature",
        Map.of("name", "Mara Quill", "signature", "Mara Quill", "drawn", false, "words", ""));
  }

  private Visitor.Answer rate(String page, int rating) {
    return customer.post(
        page + "/visits/" + gate.visit() + "/rating",
        Map.of("rating", rating, "words", "Tidy work"));
  }

  private int sentReports() {
    return program.database().fetchCount(SENT_REPORT, SENT_REPORT.VISIT_ID.eq(gate.visit()));
  }

  private List<String> mailAboutJob() {
    return program
        .database()
        .select(MAIL.BODY)
        .from(MAIL)
        .where(MAIL.BODY.contains(page().substring("/api/job-pages/".length())))
        .orderBy(MAIL.ID)
        .fetch(MAIL.BODY);
  }

  private static List<String> messages(JsonNode page) {
    return texts(page.path("messages"), "text");
  }

  @Test
  void it_says_who_comes_in_which_window_and_nothing_of_what_anything_costs() {
    Visitor.Answer answer = customer.get(page());
    JsonNode visit = answer.json().path("visits").path(0);
    assertThat(visit.path("technician").asString()).isEqualTo("Ngozi Adair");
    assertThat(visit.path("window").path("from").asString()).isNotEmpty();
    assertThat(visit.path("done").asString()).isEmpty();
    assertThat(answer.text()).doesNotContain("costMinor", "margin", "netMinor");
  }

  @Test
  void a_job_that_does_not_exist_has_none() {
    assertThat(gate.office().get("/api/jobs/999999999/customer-page").status()).isEqualTo(404);
  }

  @Test
  void the_office_sees_that_it_was_read() {
    String page = page();
    assertThat(officesView().path("openedAt").isNull()).isTrue();
    customer.get(page);
    assertThat(officesView().path("openedAt").asString()).startsWith(gate.day().toString());
  }

  @Test
  void a_withdrawn_link_opens_nothing_and_the_next_one_is_another() {
    String page = page();
    gate.office().post("/api/jobs/" + gate.job() + "/customer-page/withdraw", Map.of());
    assertThat(customer.get(page).status()).isEqualTo(404);
    assertThat(customer.post(page + "/messages", Map.of("text", "Hello")).status()).isEqualTo(404);
    String next = page();
    assertThat(next).isNotEqualTo(page);
    assertThat(customer.get(next).status()).isEqualTo(200);
  }

  @Test
  void what_was_not_signed_on_site_is_signed_on_it_once() {
    finish();
    String page = page();
    assertThat(sign(page).json().path("visits").path(0).path("signedBy").asString())
        .isEqualTo("Mara Quill");
    assertThat(sign(page).rule()).isEqualTo("VISIT_SIGNED");
    assertThat(texts(gate.office().get("/api/jobs/" + gate.job() + "/signatures").json(), "name"))
        .containsExactly("Mara Quill");
  }

  @Test
  void nothing_is_signed_before_a_visit_is_over() {
    assertThat(sign(page()).rule()).isEqualTo("VISIT_NOT_FINISHED");
  }

  @Test
  void a_visit_of_another_job_is_not_signed_there() {
    finish();
    String page = page();
    var other = new SwingGate(program, "ngozi").finished();
    assertThat(
            customer
                .post(
                    page + "/visits/" + other.visit() + "/signature",
                    Map.of("name", "M", "signature", "M", "drawn", false))
                .status())
        .isEqualTo(404);
    assertThat(customer.get(page + "/visits/" + other.visit() + "/report").status()).isEqualTo(404);
  }

  @Test
  void how_a_signed_visit_was_is_said_once() {
    finish();
    String page = page();
    assertThat(rate(page, 4).rule()).isEqualTo("VISIT_RATED");
    sign(page);
    assertThat(rate(page, 6).pointer()).isEqualTo("/rating");
    assertThat(rate(page, 4).json().path("visits").path(0).path("rating").asInt()).isEqualTo(4);
    assertThat(rate(page, 1).rule()).isEqualTo("VISIT_RATED");
  }

  @Test
  void whoever_says_later_that_it_was_bad_is_called() {
    finish();
    String page = page();
    sign(page);
    rate(page, 2);
    assertThat(gate.toDos())
        .filteredOn(what -> what.contains("2 of 5: “Tidy work”. Call them."))
        .hasSize(1);
  }

  @Test
  void a_technician_may_leave_the_signature_for_later_and_the_link_goes_out() {
    work();
    finish(Map.of("note", "Done", "signsLater", true));
    RunningPragmata.until(() -> sentReports() == 1);
    assertThat(officesView().path("toSign").path(0).asLong()).isEqualTo(gate.visit());
    assertThat(mailAboutJob()).hasSize(1);
    sign(page());
    assertThat(officesView().path("toSign")).isEmpty();
  }

  @Test
  void nobody_signs_later_who_cannot_be_written_to() {
    reachedBy("", "");
    work();
    Visitor.Answer answer = gate.tap("finish", Map.of("note", "Done", "signsLater", true));
    assertThat(answer.pointer()).isEqualTo("/signsLater");
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("on_site");
    finish(Map.of("note", "Done"));
  }

  @ParameterizedTest
  @CsvSource({"without_prices, false", "with_prices, true"})
  void a_customer_gets_a_report_of_each_visit_as_they_want_it(String copy, boolean priced) {
    gets(copy);
    finish();
    RunningPragmata.until(() -> sentReports() == 1);
    program.sendMail();
    JsonNode message = null;
    String token = page().substring("/api/job-pages/".length());
    for (JsonNode received : gate.office().get("/api/mail-stand-in").json()) {
      message = received.path("body").asString().contains(token) ? received : message;
    }
    assertThat(message).isNotNull();
    String printed =
        PrintedText.of(
            gate.office()
                .bytes("/api/mail-stand-in/" + message.path("number").asInt() + "/attachment"));
    assertThat(printed).contains("Ram changed, gate runs true");
    assertThat(printed.contains("Prices without VAT")).isEqualTo(priced);
  }

  @Test
  void a_customer_who_wants_none_gets_none() {
    finish();
    assertThat(sentReports()).isZero();
    assertThat(mailAboutJob()).isEmpty();
  }

  @Test
  void the_office_sends_a_report_to_whom_it_says_and_a_repeated_tap_sends_no_second() {
    finish();
    Map<String, Object> form = Map.of("to", "tenant@harbour.example", "withPrices", false);
    String path = "/api/visits/" + gate.visit() + "/reports";
    String key = "report-" + gate.visit();
    assertThat(gate.office().post(path, form, key).status()).isEqualTo(200);
    assertThat(gate.office().post(path, form, key).status()).isEqualTo(200);
    assertThat(texts(officesView().path("reports"), "toAddress"))
        .containsExactly("tenant@harbour.example");
  }

  @Test
  void no_report_is_sent_of_a_visit_that_is_not_over() {
    assertThat(
            gate.office()
                .post("/api/visits/" + gate.visit() + "/reports", Map.of("withPrices", false))
                .rule())
        .isEqualTo("VISIT_NOT_FINISHED");
  }

  @Test
  void the_prices_on_a_report_are_those_that_the_bill_would_say() {
    finish();
    String printed =
        PrintedText.of(gate.office().bytes("/api/visits/" + gate.visit() + "/report?prices=true"));
    JsonNode draft = gate.sheet().path("billing").path("draft");
    long gross = draft.path("grossMinor").asLong();
    assertThat(gross).isPositive();
    assertThat(printed).contains("£%,d.%02d".formatted(gross / 100, gross % 100));
  }

  @Test
  void what_a_customer_sends_again_because_the_answer_was_lost_stands_once() {
    String page = page();
    var text = Map.of("text", "Ring at the side");
    customer.post(page + "/messages", text, "lost-" + gate.job());
    customer.post(page + "/messages", text, "lost-" + gate.job());
    assertThat(messages(customer.get(page).json())).containsExactly("Ring at the side");
  }

  @Test
  void what_a_customer_writes_is_a_to_do_until_it_is_answered_to_them() {
    String page = page();
    customer.post(page + "/messages", Map.of("text", "Can you come before nine?"));
    assertThat(gate.toDos()).singleElement().asString().contains("Can you come before nine?");
    gate.office()
        .post("/api/jobs/" + gate.job() + "/messages", Map.of("text", "To Ngozi", "to", "site"));
    assertThat(gate.toDos()).hasSize(1);
    gate.office()
        .post("/api/jobs/" + gate.job() + "/messages", Map.of("text", "Yes", "to", "customer"));
    assertThat(gate.toDos()).isEmpty();
    assertThat(messages(customer.get(page).json()))
        .containsExactly("Can you come before nine?", "Yes");
  }

  @Test
  void what_is_said_to_a_customer_goes_by_mail_with_the_link_and_is_seen_once_they_open_it() {
    gate.office()
        .post("/api/jobs/" + gate.job() + "/messages", Map.of("text", "Yes", "to", "customer"));
    assertThat(mailAboutJob()).singleElement().asString().contains("Hester Lyle writes:", "Yes");
    JsonNode said = gate.office().get("/api/jobs/" + gate.job() + "/messages").json().path(0);
    assertThat(said.path("seenAt").isNull()).isTrue();
    customer.get(page());
    said = gate.office().get("/api/jobs/" + gate.job() + "/messages").json().path(0);
    assertThat(said.path("seenAt").asString()).isNotEmpty();
  }

  @Test
  void a_technician_writes_to_the_customer_who_reads_nothing_that_is_meant_for_the_office() {
    String onPhone = "/api/pocket/visits/" + gate.visit() + "/messages";
    gate.technician().post(onPhone, Map.of("text", "Who pays for this?", "to", "office"));
    gate.technician().post(onPhone, Map.of("text", "I am at the gate", "to", "customer"));
    assertThat(messages(customer.get(page()).json())).containsExactly("I am at the gate");
  }

  @Test
  void whoever_has_no_mail_address_is_told_by_text_message() {
    reachedBy("", "01632 960177");
    gate.office()
        .post("/api/jobs/" + gate.job() + "/messages", Map.of("text", "Yes", "to", "customer"));
    assertThat(
            program
                .database()
                .select(TEXT_MESSAGE.BODY)
                .from(TEXT_MESSAGE)
                .where(TEXT_MESSAGE.TO_NUMBER.eq("01632 960177"))
                .fetch(TEXT_MESSAGE.BODY))
        .singleElement()
        .asString()
        .contains("Yes", "http://ferrow.example/work/");
  }

  @Test
  void nothing_is_written_to_whom_nobody_can_reach() {
    reachedBy("", "");
    assertThat(
            gate.office()
                .post(
                    "/api/jobs/" + gate.job() + "/messages",
                    Map.of("text", "Yes", "to", "customer"))
                .pointer())
        .isEqualTo("/to");
  }
}
