package app.pragmata.core.books;

import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.job;
import static app.pragmata.core.costing.WorkedExample.warranty;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.InvoiceDraft;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.jobs.BillingBasis.TimeAndParts;
import app.pragmata.core.money.Money;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

class PostingTest {
  @Test
  void the_worked_examples_invoice_posts_exactly_the_examples_lines() {
    assertThat(lines(Posting.entryFor(workedExampleInvoice())))
        .containsExactly(
            "TRADE_DEBTORS 541.19 0.00",
            "SALES_LABOUR 0.00 224.75",
            "SALES_CALL_OUT 0.00 45.00",
            "SALES_PARTS 0.00 181.24",
            "OUTPUT_VAT 0.00 90.20",
            "COST_OF_SALES_LABOUR 89.40 0.00",
            "COST_OF_SALES_DRIVE 23.06 0.00",
            "COST_OF_SALES_PARTS 240.90 0.00",
            "WORK_IN_PROGRESS 0.00 353.36");
  }

  @Test
  void approved_time_goes_to_work_in_progress_from_payroll_and_vehicles() {
    assertThat(
            lines(
                Posting.entryFor(
                    new BooksEvent.TimeApproved(Money.of("105.47"), Money.of("6.99")))))
        .containsExactly(
            "WORK_IN_PROGRESS 112.46 0.00",
            "PAYROLL_CLEARING 0.00 105.47",
            "VEHICLE_COSTS_ABSORBED 0.00 6.99");
  }

  @Test
  void a_share_of_a_drive_home_is_work_in_progress_while_the_job_runs() {
    assertThat(lines(Posting.entryFor(shared(CostPlace.WORK_IN_PROGRESS))))
        .containsExactly(
            "WORK_IN_PROGRESS 7.14 0.00",
            "PAYROLL_CLEARING 0.00 4.82",
            "VEHICLE_COSTS_ABSORBED 0.00 2.32");
  }

  @Test
  void a_share_that_comes_after_the_closing_document_goes_where_that_brought_the_cost() {
    assertThat(lines(Posting.entryFor(shared(CostPlace.COST_OF_SALES))))
        .contains("COST_OF_SALES_DRIVE 7.14 0.00");
    assertThat(lines(Posting.entryFor(shared(CostPlace.WARRANTY_AND_GOODWILL))))
        .contains("WARRANTY_AND_GOODWILL 7.14 0.00");
  }

  @Test
  void a_share_is_taken_back_from_where_the_jobs_cost_stands_by_now() {
    var back =
        new BooksEvent.DriveHomeTakenBack(
            Money.of("4.82"), Money.of("2.32"), CostPlace.COST_OF_SALES);
    assertThat(lines(Posting.entryFor(back)))
        .containsExactly(
            "PAYROLL_CLEARING 4.82 0.00",
            "VEHICLE_COSTS_ABSORBED 2.32 0.00",
            "COST_OF_SALES_DRIVE 0.00 7.14");
  }

  private static BooksEvent shared(CostPlace place) {
    return new BooksEvent.DriveHomeShared(Money.of("4.82"), Money.of("2.32"), place);
  }

  @Test
  void a_deposit_is_owed_until_it_is_applied_or_given_back() {
    Money amount = Money.of("183.60");
    assertThat(lines(Posting.entryFor(new BooksEvent.DepositReceived(amount))))
        .containsExactly("BANK 183.60 0.00", "CUSTOMER_DEPOSITS 0.00 183.60");
    assertThat(lines(Posting.entryFor(new BooksEvent.DepositApplied(amount))))
        .containsExactly("CUSTOMER_DEPOSITS 183.60 0.00", "TRADE_DEBTORS 0.00 183.60");
    assertThat(lines(Posting.entryFor(new BooksEvent.DepositRefunded(amount))))
        .containsExactly("CUSTOMER_DEPOSITS 183.60 0.00", "BANK 0.00 183.60");
  }

  @Test
  void a_suppliers_bill_takes_its_vat_apart() {
    assertThat(
            lines(
                Posting.entryFor(
                    new BooksEvent.SupplierBilled(Money.of("80.00"), Money.of("16.00")))))
        .containsExactly(
            "WORK_IN_PROGRESS 80.00 0.00", "INPUT_VAT 16.00 0.00", "TRADE_CREDITORS 0.00 96.00");
  }

  @Test
  void a_job_that_is_not_charged_becomes_warranty_and_goodwill_cost() {
    assertThat(lines(Posting.entryFor(new BooksEvent.JobNotCharged(Money.of("353.36")))))
        .containsExactly("WARRANTY_AND_GOODWILL 353.36 0.00", "WORK_IN_PROGRESS 0.00 353.36");
  }

  @Test
  void a_reversal_mirrors_every_line() {
    assertThat(lines(Posting.entryFor(new BooksEvent.PartUsed(Money.of("28.50"))).reversed()))
        .containsExactly("WORK_IN_PROGRESS 0.00 28.50", "STOCK 28.50 0.00");
  }

  @Test
  void an_entry_that_does_not_balance_cannot_be_built() {
    var line = new JournalEntry.Line(PostingCategory.BANK, Money.of("1.00"), Money.ZERO);
    assertThatThrownBy(() -> new JournalEntry(List.of(line)))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.UNBALANCED_ENTRY));
  }

  @Test
  void a_category_without_an_account_is_refused_by_name() {
    assertThatThrownBy(() -> new ChartOfAccounts(Map.of()).accountFor(PostingCategory.SALES_PARTS))
        .isInstanceOfSatisfying(
            Refused.class,
            refused -> assertThat(refused.rule()).isEqualTo(Rule.NO_ACCOUNT_FOR_CATEGORY));
  }

  @Property
  void every_event_balances(
      @ForAll @LongRange(min = 0, max = 10_000_000) long first,
      @ForAll @LongRange(min = 0, max = 10_000_000) long second) {
    Money one = Money.ofMinor(first);
    Money two = Money.ofMinor(second);
    for (BooksEvent event :
        List.of(
            new BooksEvent.TimeApproved(one, two),
            new BooksEvent.PartUsed(one),
            new BooksEvent.SupplierBilled(one, two),
            new BooksEvent.PartReceived(one),
            new BooksEvent.MoneyReceived(one),
            new BooksEvent.JobNotCharged(one),
            new BooksEvent.InvoicePosted(
                one.plus(two), Map.of(Category.LABOUR, one), two, Map.of(Category.PARTS, two)))) {
      JournalEntry entry = Posting.entryFor(event);
      assertThat(balance(entry, PostingCategory.values())).isEqualTo(Money.ZERO);
    }
  }

  @Property
  void work_in_progress_is_nil_after_billing_what_was_approved_and_used(
      @ForAll @LongRange(min = 0, max = 1_000_000) long time,
      @ForAll @LongRange(min = 0, max = 1_000_000) long distance,
      @ForAll @LongRange(min = 0, max = 1_000_000) long parts) {
    var approved = new BooksEvent.TimeApproved(Money.ofMinor(time), Money.ofMinor(distance));
    var used = new BooksEvent.PartUsed(Money.ofMinor(parts));
    var invoice =
        new BooksEvent.InvoicePosted(
            Money.ZERO,
            Map.of(),
            Money.ZERO,
            Map.of(
                Category.LABOUR,
                approved.time(),
                Category.DRIVE,
                approved.distance(),
                Category.PARTS,
                used.cost()));
    Money left =
        List.of(approved, used, invoice).stream()
            .map(event -> balance(Posting.entryFor(event), PostingCategory.WORK_IN_PROGRESS))
            .collect(Money.sum());
    assertThat(left).isEqualTo(Money.ZERO);
  }

  private static BooksEvent workedExampleInvoice() {
    InvoiceDraft draft = billing().draft(job(), new TimeAndParts(), warranty());
    CostSheet sheet = costing().cost(job());
    Map<Category, Money> costs =
        Arrays.stream(Category.values())
            .collect(
                Collectors.toMap(category -> category, category -> sheet.rung(category).actual()));
    return new BooksEvent.InvoicePosted(
        draft.vat().gross(), draft.netByCategory(), draft.vat().vat(), costs);
  }

  private static List<String> lines(JournalEntry entry) {
    return entry.lines().stream()
        .map(l -> l.category() + " " + l.debit() + " " + l.credit())
        .toList();
  }

  private static Money balance(JournalEntry entry, PostingCategory... categories) {
    return entry.lines().stream()
        .filter(line -> Arrays.asList(categories).contains(line.category()))
        .map(line -> line.debit().minus(line.credit()))
        .collect(Money.sum());
  }
}
