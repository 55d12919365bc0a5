package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.people.Act;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** A customer with sites, equipment and everything that stands between us. */
@RestController
class CustomersApi {
  record CustomerSheet(
      long id,
      long number,
      String name,
      String phone,
      String email,
      String address,
      String postcode,
      int paymentDays,
      Debt debt,
      List<SiteAt> sites,
      List<QuoteOf> quotes,
      List<JobOf> jobs,
      List<InvoiceOf> invoices) {}

  record SiteAt(
      long id,
      String name,
      String address,
      String postcode,
      String accessNotes,
      String contactName,
      String contactPhone,
      List<EquipmentAt> equipment) {}

  record EquipmentAt(
      long id,
      String model,
      String serialNumber,
      LocalDate fittedOn,
      @Nullable LocalDate partsWarrantyUntil) {}

  record QuoteOf(long id, long number, String title, String state, long netMinor) {}

  record JobOf(long id, long number, String title, String state) {}

  record InvoiceOf(
      long id,
      long number,
      long jobId,
      LocalDate invoiceDate,
      LocalDate dueDate,
      long grossMinor,
      long owedMinor) {}

  private final DSLContext database;
  private final DebtStore debts;

  CustomersApi(DSLContext database, DebtStore debts) {
    this.database = database;
    this.debts = debts;
  }

  @GetMapping("/api/customers/{id}")
  CustomerSheet customer(Act act, @PathVariable long id) {
    Debt debt = debts.getDebt(id, act.today());
    CustomerSheet sheet =
        database
            .select(
                CUSTOMER.ID,
                CUSTOMER.NUMBER,
                CUSTOMER.NAME,
                CUSTOMER.PHONE,
                CUSTOMER.EMAIL,
                CUSTOMER.ADDRESS,
                CUSTOMER.POSTCODE,
                CUSTOMER.PAYMENT_DAYS.cast(Integer.class),
                org.jooq.impl.DSL.val("").convertFrom(ignored -> debt),
                sites(),
                multiset(
                        select(QUOTE.ID, QUOTE.NUMBER, QUOTE.TITLE, QUOTE.STATE, QUOTE.NET_MINOR)
                            .from(QUOTE)
                            .where(QUOTE.CUSTOMER_ID.eq(CUSTOMER.ID))
                            .orderBy(QUOTE.NUMBER.desc())
                            .limit(20))
                    .convertFrom(rows -> rows.map(mapping(QuoteOf::new))),
                multiset(
                        select(JOB.ID, JOB.NUMBER, JOB.TITLE, JOB.STATE)
                            .from(JOB)
                            .where(JOB.CUSTOMER_ID.eq(CUSTOMER.ID))
                            .orderBy(JOB.NUMBER.desc())
                            .limit(20))
                    .convertFrom(rows -> rows.map(mapping(JobOf::new))),
                multiset(
                        select(
                                INVOICE.ID,
                                INVOICE.NUMBER,
                                INVOICE.JOB_ID,
                                INVOICE.INVOICE_DATE,
                                INVOICE.DUE_DATE,
                                INVOICE.GROSS_MINOR,
                                INVOICE.OWED_MINOR)
                            .from(INVOICE)
                            .where(INVOICE.CUSTOMER_ID.eq(CUSTOMER.ID))
                            .orderBy(INVOICE.NUMBER.desc())
                            .limit(20))
                    .convertFrom(rows -> rows.map(mapping(InvoiceOf::new))))
            .from(CUSTOMER)
            .where(CUSTOMER.ID.eq(id))
            .fetchOne(mapping(CustomerSheet::new));
    if (sheet == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This customer does not exist. Find the right one with / and the name.");
    }
    return sheet;
  }

  private static org.jooq.Field<List<SiteAt>> sites() {
    return multiset(
            select(
                    SITE.ID,
                    SITE.NAME,
                    SITE.ADDRESS,
                    SITE.POSTCODE,
                    SITE.ACCESS_NOTES,
                    SITE.CONTACT_NAME,
                    SITE.CONTACT_PHONE,
                    multiset(
                            select(
                                    EQUIPMENT.ID,
                                    EQUIPMENT.MODEL,
                                    EQUIPMENT.SERIAL_NUMBER,
                                    EQUIPMENT.FITTED_ON,
                                    EQUIPMENT.PARTS_WARRANTY_UNTIL)
                                .from(EQUIPMENT)
                                .where(EQUIPMENT.SITE_ID.eq(SITE.ID))
                                .orderBy(EQUIPMENT.FITTED_ON))
                        .convertFrom(rows -> rows.map(mapping(EquipmentAt::new))))
                .from(SITE)
                .where(SITE.CUSTOMER_ID.eq(CUSTOMER.ID))
                .orderBy(SITE.NAME))
        .convertFrom(rows -> rows.map(mapping(SiteAt::new)));
  }
}
