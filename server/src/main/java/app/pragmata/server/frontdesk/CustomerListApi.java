package app.pragmata.server.frontdesk;

import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.condition;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.lower;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.http.SearchWords;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import ezvcard.Ezvcard;
import ezvcard.VCard;
import ezvcard.VCardVersion;
import ezvcard.parameter.EmailType;
import ezvcard.parameter.TelephoneType;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All customers as a list, and whom to speak to as a file for address books. */
@RestController
class CustomerListApi {
  record CustomerRow(
      long id,
      long number,
      String name,
      String phone,
      String address,
      String postcode,
      long owedMinor,
      long lateMinor,
      boolean onStop) {}

  /** A page of customers; {@code next} asks for the one after it, null on the last. */
  record CustomerPage(List<CustomerRow> rows, @Nullable String next) {}

  private static final Field<String> CUSTOMERS = inline(RecordKind.CUSTOMER.code());

  private static final int PAGE = 100;
  // Up to so many matches it is faster to sort them than to walk the list for the next page.
  private static final int FEW = 2_000;

  private static final Field<String> NAME = lower(CUSTOMER.NAME);
  private static final Field<BigDecimal> NOTHING = inline(BigDecimal.ZERO);

  private final DSLContext database;

  CustomerListApi(DSLContext database) {
    this.database = database;
  }

  /**
   * Customers by name, or those who owe anything by how much they owe.
   *
   * @param sort {@code name} or {@code owed}
   * @param filter words that begin anything in the name, the address, the mail or the contacts
   */
  @GetMapping("/api/customers")
  CustomerPage listCustomers(
      Act act,
      @RequestParam(defaultValue = "name") Sort sort,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "") String after) {
    List<CustomerRow> rows = list(act, sort, filter, after, PAGE + 1);
    boolean more = rows.size() > PAGE;
    List<CustomerRow> page = more ? rows.subList(0, PAGE) : rows;
    return new CustomerPage(page, more ? key(page.getLast(), sort).text() : null);
  }

  @GetMapping("/api/customers/file")
  ResponseEntity<byte[]> downloadCustomers(
      Act act,
      @RequestParam(defaultValue = "name") Sort sort,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("customers", format)
        .head("Number", "Name", "Phone", "Address", "Postcode", "Owed", "Late", "On stop")
        .rows(
            list(act, sort, filter, "", ListFile.MOST_ROWS),
            row ->
                new @Nullable Object[] {
                  row.number(),
                  row.name(),
                  row.phone(),
                  row.address(),
                  row.postcode(),
                  ListFile.amount(row.owedMinor()),
                  ListFile.amount(row.lateMinor()),
                  row.onStop() ? "yes" : ""
                })
        .answer();
  }

  /** What comes first. */
  enum Sort implements Coded {
    NAME,
    OWED
  }

  private static PageKey key(CustomerRow last, Sort sort) {
    return sort == Sort.OWED
        ? PageKey.of(last.owedMinor(), last.id())
        : PageKey.of(last.name(), last.id());
  }

  private List<CustomerRow> list(Act act, Sort sort, String filter, String after, int most) {
    Filter wanted = filter(filter);
    return sort == Sort.OWED ? byDebt(act, wanted, after, most) : byName(act, wanted, after, most);
  }

  /**
   * Which customers are wanted. Few matches are found by the index and sorted; many are met soon
   * enough on the way down the list, which the planner would not guess.
   */
  private record Filter(Field<Object> query, boolean many) {
    Condition on(Field<Long> customerId) {
      return many
          ? condition(
              "(select words @@ {0} from search_entry where kind = {1} and record_id = {2})",
              query, CUSTOMERS, customerId)
          : customerId.in(
              field(
                  "select record_id from search_entry where kind = {0} and words @@ {1}",
                  Long.class, CUSTOMERS, query));
    }
  }

  /** Null when everybody is wanted. */
  private @Nullable Filter filter(String typed) {
    String query =
        database
            .resultQuery(
                "select search_query({0}, false)",
                val(String.join(" ", SearchWords.read("filter", typed))))
            .fetchSingle()
            .get(0, String.class);
    if (query.isEmpty()) {
      return null;
    }
    Field<Object> words = field("to_tsquery('simple', {0})", val(query));
    int found =
        database
            .resultQuery(
                "select count(*) from (select from search_entry where kind = {0} and words @@ {1} limit {2}) found",
                CUSTOMERS, words, inline(FEW + 1))
            .fetchSingle()
            .get(0, Integer.class);
    return new Filter(words, found > FEW);
  }

  private List<CustomerRow> byName(Act act, @Nullable Filter wanted, String after, int most) {
    Condition further =
        CUSTOMER.MERGED_INTO.isNull().and(wanted == null ? noCondition() : wanted.on(CUSTOMER.ID));
    if (!after.isEmpty()) {
      PageKey key = PageKey.parse(after, 2);
      further = further.and(row(NAME, CUSTOMER.ID).gt(lower(val(key.text(0))), val(key.number(1))));
    }
    Field<BigDecimal> owed = owed(CUSTOMER.ID, null);
    Field<BigDecimal> late = owed(CUSTOMER.ID, act);
    return database
        .select(
            CUSTOMER.ID,
            CUSTOMER.NUMBER,
            CUSTOMER.NAME,
            CUSTOMER.PHONE,
            CUSTOMER.ADDRESS,
            CUSTOMER.POSTCODE,
            owed.cast(SQLDataType.BIGINT),
            late.cast(SQLDataType.BIGINT),
            field(CUSTOMER.STOP_REASON.isNotNull()))
        .from(CUSTOMER)
        .where(further)
        .orderBy(NAME, CUSTOMER.ID)
        .limit(most)
        .fetch(Records.mapping(CustomerRow::new));
  }

  private static Field<BigDecimal> owed(Field<Long> customerId, @Nullable Act lateBy) {
    Condition which = RECEIVABLE.CUSTOMER_ID.eq(customerId).and(RECEIVABLE.OWED_MINOR.gt(0L));
    return coalesce(
        field(
            select(sum(RECEIVABLE.OWED_MINOR))
                .from(RECEIVABLE)
                .where(lateBy == null ? which : which.and(RECEIVABLE.DUE_DATE.lt(lateBy.today())))),
        NOTHING);
  }

  /** Only who owes anything; nobody who was merged into another does. */
  private List<CustomerRow> byDebt(Act act, @Nullable Filter wanted, String after, int most) {
    Field<Long> owed = sum(RECEIVABLE.OWED_MINOR).cast(SQLDataType.BIGINT).as("owed");
    Field<Long> late =
        coalesce(
                sum(RECEIVABLE.OWED_MINOR).filterWhere(RECEIVABLE.DUE_DATE.lt(act.today())),
                NOTHING)
            .cast(SQLDataType.BIGINT)
            .as("late");
    boolean few = wanted != null && !wanted.many();
    var sums =
        select(RECEIVABLE.CUSTOMER_ID.as("customer_id"), owed, late)
            .from(RECEIVABLE)
            .where(RECEIVABLE.OWED_MINOR.gt(0L))
            .and(few ? wanted.on(RECEIVABLE.CUSTOMER_ID) : noCondition())
            .groupBy(RECEIVABLE.CUSTOMER_ID)
            .asTable("sums");
    Field<Long> debt = sums.field("owed", Long.class);
    Field<Long> debtor = sums.field("customer_id", Long.class);
    Condition further = noCondition();
    if (!after.isEmpty()) {
      PageKey key = PageKey.parse(after, 2);
      further = row(debt, debtor.neg()).lt(key.number(0), -key.number(1));
    }
    // The limit keeps the largest debts in front: the filter then stops at the page's last row.
    var debts =
        select(debtor, debt, sums.field("late", Long.class))
            .from(sums)
            .where(further)
            .orderBy(debt.desc(), debtor)
            .limit(wanted != null && wanted.many() ? inline(ListFile.MOST_ROWS) : val(most))
            .asTable("debts");
    Field<Long> owing = debts.field("customer_id", Long.class);
    return database
        .select(
            CUSTOMER.ID,
            CUSTOMER.NUMBER,
            CUSTOMER.NAME,
            CUSTOMER.PHONE,
            CUSTOMER.ADDRESS,
            CUSTOMER.POSTCODE,
            debts.field("owed", Long.class),
            debts.field("late", Long.class),
            field(CUSTOMER.STOP_REASON.isNotNull()))
        .from(
            wanted != null && wanted.many()
                ? select(debts.fields())
                    .from(debts)
                    .where(wanted.on(owing))
                    .limit(most)
                    .asTable("debts")
                : debts)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(owing))
        .orderBy(debts.field("owed", Long.class).desc(), CUSTOMER.ID)
        .fetch(Records.mapping(CustomerRow::new));
  }

  /** The customer and everybody who is named for it as vCards (RFC 6350). */
  @GetMapping("/api/customers/{id}/contacts.vcf")
  ResponseEntity<byte[]> downloadContacts(@PathVariable long id) {
    var customer =
        database
            .selectFrom(CUSTOMER)
            .where(CUSTOMER.ID.eq(id))
            .fetchOptional()
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NOT_FOUND,
                        "This customer does not exist. Find the right one with / and the name."));
    var cards = new ArrayList<VCard>();
    cards.add(
        card(customer.getName(), customer.getName(), customer.getPhone(), customer.getEmail(), ""));
    database
        .select(CONTACT.NAME, CONTACT.PHONE, CONTACT.EMAIL, SITE.NAME)
        .from(CONTACT)
        .leftJoin(SITE)
        .on(SITE.ID.eq(CONTACT.SITE_ID))
        .where(CONTACT.CUSTOMER_ID.eq(id))
        .orderBy(CONTACT.NAME)
        .forEach(
            row ->
                cards.add(
                    card(
                        row.value1(),
                        customer.getName(),
                        row.value2(),
                        row.value3(),
                        row.value4() == null ? "" : row.value4())));
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"customer-" + customer.getNumber() + ".vcf\"")
        .contentType(MediaType.parseMediaType("text/vcard;charset=utf-8"))
        .body(
            Ezvcard.write(cards)
                .version(VCardVersion.V4_0)
                .prodId(false)
                .go()
                .getBytes(StandardCharsets.UTF_8));
  }

  private static VCard card(
      String name, String organization, String phone, String email, String note) {
    var card = new VCard();
    card.setFormattedName(name);
    card.setOrganization(organization);
    if (!phone.isEmpty()) {
      card.addTelephoneNumber(phone, TelephoneType.WORK);
    }
    if (!email.isEmpty()) {
      card.addEmail(email, EmailType.WORK);
    }
    if (!note.isEmpty()) {
      card.addNote(note);
    }
    return card;
  }
}
