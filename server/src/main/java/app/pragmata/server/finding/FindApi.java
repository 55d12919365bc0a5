package app.pragmata.server.finding;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.regexpReplaceAll;

import java.util.ArrayList;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Finds customers, sites, equipment and documents by anything that a caller may say. */
@RestController
class FindApi {
  private static final int MOST_PER_KIND = 6;

  /** A hit: where it leads, and two lines to know it by. */
  record Hit(String kind, long id, String title, String detail) {}

  private final DSLContext database;

  FindApi(DSLContext database) {
    this.database = database;
  }

  @GetMapping("/api/find")
  List<Hit> find(@RequestParam(defaultValue = "") String q) {
    String wanted = q.strip();
    if (wanted.length() < 2 || wanted.length() > 100) {
      return List.of();
    }
    var hits = new ArrayList<Hit>();
    String number = wanted.replaceFirst("(?i)^(j|q|quote|job|invoice|inv)\\s*", "");
    if (number.matches("\\d{1,9}")) {
      hits.addAll(documents(Long.parseLong(number)));
    }
    hits.addAll(customers(wanted));
    hits.addAll(sites(wanted));
    hits.addAll(equipment(wanted));
    hits.addAll(jobs(wanted));
    return hits;
  }

  private List<Hit> documents(long number) {
    var hits = new ArrayList<Hit>();
    hits.addAll(
        database
            .select(JOB.ID, JOB.NUMBER, JOB.TITLE, CUSTOMER.NAME)
            .from(JOB)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .where(JOB.NUMBER.eq(number))
            .fetch(
                row ->
                    new Hit(
                        "job",
                        row.value1(),
                        "Job " + row.value2() + ", " + row.value4(),
                        row.value3())));
    hits.addAll(
        database
            .select(QUOTE.ID, QUOTE.NUMBER, QUOTE.TITLE, CUSTOMER.NAME)
            .from(QUOTE)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(QUOTE.CUSTOMER_ID))
            .where(QUOTE.NUMBER.eq(number))
            .fetch(
                row ->
                    new Hit(
                        "quote",
                        row.value1(),
                        "Quote " + row.value2() + ", " + row.value4(),
                        row.value3())));
    hits.addAll(
        database
            .select(INVOICE.JOB_ID, INVOICE.NUMBER, CUSTOMER.NAME, JOB.TITLE)
            .from(INVOICE)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(INVOICE.CUSTOMER_ID))
            .join(JOB)
            .on(JOB.ID.eq(INVOICE.JOB_ID))
            .where(INVOICE.NUMBER.eq(number))
            .fetch(
                row ->
                    new Hit(
                        "job",
                        row.value1(),
                        "Invoice " + row.value2() + ", " + row.value3(),
                        row.value4())));
    return hits;
  }

  private List<Hit> customers(String wanted) {
    Field<String> digits = regexpReplaceAll(CUSTOMER.PHONE, "\\D", "");
    String spoken = wanted.replaceAll("\\D", "").replaceFirst("^(0044|44|0)", "");
    Condition byPhone = spoken.length() >= 4 ? digits.contains(spoken) : noCondition().not();
    return database
        .select(CUSTOMER.ID, CUSTOMER.NAME, CUSTOMER.PHONE, CUSTOMER.POSTCODE)
        .from(CUSTOMER)
        .where(
            words(
                    CUSTOMER
                        .NAME
                        .concat(" ")
                        .concat(CUSTOMER.EMAIL)
                        .concat(" ")
                        .concat(CUSTOMER.POSTCODE),
                    wanted)
                .or(byPhone))
        .orderBy(CUSTOMER.NAME)
        .limit(MOST_PER_KIND)
        .fetch(
            row ->
                new Hit(
                    "customer", row.value1(), row.value2(), row.value3() + "  " + row.value4()));
  }

  private List<Hit> sites(String wanted) {
    return database
        .select(SITE.CUSTOMER_ID, CUSTOMER.NAME, SITE.NAME, SITE.ADDRESS, SITE.POSTCODE)
        .from(SITE)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(SITE.CUSTOMER_ID))
        .where(
            words(
                SITE.NAME.concat(" ").concat(SITE.ADDRESS).concat(" ").concat(SITE.POSTCODE),
                wanted))
        .orderBy(SITE.NAME)
        .limit(MOST_PER_KIND)
        .fetch(
            row ->
                new Hit(
                    "site",
                    row.value1(),
                    row.value2() + ", " + row.value3(),
                    row.value4() + "  " + row.value5()));
  }

  private List<Hit> equipment(String wanted) {
    return database
        .select(
            SITE.CUSTOMER_ID, EQUIPMENT.MODEL, EQUIPMENT.SERIAL_NUMBER, SITE.NAME, CUSTOMER.NAME)
        .from(EQUIPMENT)
        .join(SITE)
        .on(SITE.ID.eq(EQUIPMENT.SITE_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(SITE.CUSTOMER_ID))
        .where(EQUIPMENT.SERIAL_NUMBER.containsIgnoreCase(wanted))
        .limit(MOST_PER_KIND)
        .fetch(
            row ->
                new Hit(
                    "equipment",
                    row.value1(),
                    row.value3() + ", " + row.value2(),
                    row.value5() + ", " + row.value4()));
  }

  private List<Hit> jobs(String wanted) {
    return database
        .select(JOB.ID, JOB.NUMBER, JOB.TITLE, CUSTOMER.NAME)
        .from(JOB)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .where(words(JOB.TITLE.concat(" ").concat(CUSTOMER.NAME), wanted))
        .orderBy(JOB.NUMBER.desc())
        .limit(MOST_PER_KIND)
        .fetch(
            row ->
                new Hit(
                    "job",
                    row.value1(),
                    "Job " + row.value2() + ", " + row.value4(),
                    row.value3()));
  }

  /** Every word has to occur, in any order. */
  private static Condition words(Field<String> text, String wanted) {
    Condition all = noCondition();
    for (String word : wanted.split("\\s+", -1)) {
      all = all.and(text.containsIgnoreCase(word));
    }
    return all;
  }
}
