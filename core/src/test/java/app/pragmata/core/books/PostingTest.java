package app.pragmata.core.books;

import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.cover;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Bill;
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
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PostingTest {
  private static final CostObject JOB = new CostObject(7, 2_007, "repairs");
  private static final CostPlace WIP = CostPlace.WORK_IN_PROGRESS;

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
            lines(Posting.entryFor(approved(CostPlace.WORK_IN_PROGRESS, "89.40", "16.07", "6.99"))))
        .containsExactly(
            "WORK_IN_PROGRESS 112.46 0.00",
            "PAYROLL_CLEARING 0.00 105.47",
            "VEHICLE_COSTS_ABSORBED 0.00 6.99");
  }

  @Test
  void time_that_comes_after_the_closing_document_is_cost_of_labour_and_of_drive() {
    assertThat(lines(Posting.entryFor(approved(CostPlace.COST_OF_SALES, "89.40", "16.07", "6.99"))))
        .containsExactly(
            "COST_OF_SALES_LABOUR 89.40 0.00",
            "COST_OF_SALES_DRIVE 23.06 0.00",
            "PAYROLL_CLEARING 0.00 105.47",
            "VEHICLE_COSTS_ABSORBED 0.00 6.99");
    assertThat(
            lines(Posting.entryFor(approved(CostPlace.WORK_CALLED_OFF, "89.40", "16.07", "6.99"))))
        .contains("COST_OF_WORK_CALLED_OFF 112.46 0.00");
  }

  private static BooksEvent approved(CostPlace place, String labour, String drive, String miles) {
    return new BooksEvent.TimeApproved(
        JOB, place, Money.of(labour), Money.of(drive), Money.of(miles));
  }

  @ParameterizedTest
  @CsvSource({
    "WORK_IN_PROGRESS, WORK_IN_PROGRESS, WORK_IN_PROGRESS",
    "COST_OF_SALES, COST_OF_SALES_PARTS, COST_OF_SALES_OTHER",
    "WARRANTY_AND_GOODWILL, WARRANTY_AND_GOODWILL, WARRANTY_AND_GOODWILL",
    "WORK_CALLED_OFF, COST_OF_WORK_CALLED_OFF, COST_OF_WORK_CALLED_OFF"
  })
  void a_part_and_a_suppliers_bill_cost_the_account_of_the_closing_document(
      CostPlace place, String ofPart, String ofBill) {
    Money cost = Money.of("28.50");
    assertThat(lines(Posting.entryFor(new BooksEvent.PartUsed(JOB, place, cost))))
        .containsExactly(ofPart + " 28.50 0.00", "STOCK 0.00 28.50");
    assertThat(lines(Posting.entryFor(new BooksEvent.SupplierBilled(JOB, place, cost, Money.ZERO))))
        .containsExactly(ofBill + " 28.50 0.00", "TRADE_CREDITORS 0.00 28.50");
  }

  @Property
  void lines_of_profit_and_work_are_of_the_job_and_those_of_control_accounts_of_none(
      @ForAll CostPlace place) {
    for (BooksEvent event :
        List.of(
            new BooksEvent.PartUsed(JOB, place, Money.of("28.50")),
            workedExampleInvoice(),
            new BooksEvent.JobCalledOff(JOB, Money.of("3.00")))) {
      assertThat(Posting.entryFor(event).lines())
          .allSatisfy(
              line -> assertThat(line.of()).isEqualTo(line.category().isOfJobs() ? JOB : null));
    }
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
            JOB, CostPlace.COST_OF_SALES, Money.of("4.82"), Money.of("2.32"));
    assertThat(lines(Posting.entryFor(back)))
        .containsExactly(
            "PAYROLL_CLEARING 4.82 0.00",
            "VEHICLE_COSTS_ABSORBED 2.32 0.00",
            "COST_OF_SALES_DRIVE 0.00 7.14");
  }

  private static BooksEvent shared(CostPlace place) {
    return new BooksEvent.DriveHomeShared(JOB, place, Money.of("4.82"), Money.of("2.32"));
  }

  @Test
  void money_pays_debts_and_the_rest_is_owed_back_until_it_is_allocated_or_given_back() {
    Money amount = Money.of("183.60");
    assertThat(lines(Posting.entryFor(new BooksEvent.MoneyReceived(amount, Money.of("100.00")))))
        .containsExactly(
            "BANK 183.60 0.00", "TRADE_DEBTORS 0.00 100.00", "CUSTOMER_DEPOSITS 0.00 83.60");
    assertThat(lines(Posting.entryFor(new BooksEvent.MoneyAllocated(amount))))
        .containsExactly("CUSTOMER_DEPOSITS 183.60 0.00", "TRADE_DEBTORS 0.00 183.60");
    assertThat(lines(Posting.entryFor(new BooksEvent.MoneyGivenBack(amount))))
        .containsExactly("CUSTOMER_DEPOSITS 183.60 0.00", "BANK 0.00 183.60");
  }

  @Property
  void a_receipt_that_is_taken_back_with_its_allocations_leaves_nothing(
      @ForAll @LongRange(min = 1, max = 10_000_000) long amount,
      @ForAll @LongRange(min = 0, max = 10_000_000) long paid) {
    Money money = Money.ofMinor(amount);
    Money allocated = Money.ofMinor(Math.min(amount, paid));
    List<BooksEvent> life =
        List.of(
            new BooksEvent.MoneyReceived(money, allocated),
            new BooksEvent.AllocationTakenBack(allocated),
            new BooksEvent.ReceiptTakenBack(money));
    for (PostingCategory category : PostingCategory.values()) {
      assertThat(
              life.stream()
                  .map(event -> balance(Posting.entryFor(event), category))
                  .collect(Money.sum()))
          .isEqualTo(Money.ZERO);
    }
  }

  @Test
  void a_suppliers_bill_takes_its_vat_apart() {
    assertThat(
            lines(
                Posting.entryFor(
                    new BooksEvent.SupplierBilled(JOB, WIP, Money.of("80.00"), Money.of("16.00")))))
        .containsExactly(
            "WORK_IN_PROGRESS 80.00 0.00", "INPUT_VAT 16.00 0.00", "TRADE_CREDITORS 0.00 96.00");
  }

  @Test
  void a_job_that_is_not_charged_becomes_warranty_and_goodwill_cost() {
    assertThat(lines(Posting.entryFor(new BooksEvent.JobNotCharged(JOB, Money.of("353.36")))))
        .containsExactly("WARRANTY_AND_GOODWILL 353.36 0.00", "WORK_IN_PROGRESS 0.00 353.36");
  }

  @Test
  void a_reversal_mirrors_every_line() {
    assertThat(
            lines(
                Posting.entryFor(new BooksEvent.PartUsed(JOB, WIP, Money.of("28.50"))).reversed()))
        .containsExactly("WORK_IN_PROGRESS 0.00 28.50", "STOCK 28.50 0.00");
  }

  @Test
  void an_entry_that_does_not_balance_cannot_be_built() {
    var line = new JournalEntry.Line(PostingCategory.BANK, null, Money.of("1.00"), Money.ZERO);
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

  @Test
  void what_is_used_beyond_the_stock_is_borne_by_stock_differences_until_it_is_explained() {
    Money cost = Money.of("20.00");
    assertThat(lines(Posting.entryFor(new BooksEvent.UsedBeyondStock(cost))))
        .containsExactly("STOCK 20.00 0.00", "STOCK_DIFFERENCES 0.00 20.00");
    assertThat(lines(Posting.entryFor(new BooksEvent.StockExplained(cost))))
        .containsExactly("STOCK_DIFFERENCES 20.00 0.00", "STOCK 0.00 20.00");
  }

  @Property
  void every_event_balances(
      @ForAll @LongRange(min = 0, max = 10_000_000) long first,
      @ForAll @LongRange(min = 0, max = 10_000_000) long second) {
    Money one = Money.ofMinor(first);
    Money two = Money.ofMinor(second);
    for (BooksEvent event :
        List.of(
            new BooksEvent.TimeApproved(JOB, WIP, one, two, one),
            new BooksEvent.PartUsed(JOB, WIP, one),
            new BooksEvent.SupplierBilled(JOB, WIP, one, two),
            new BooksEvent.PartReceived(one),
            new BooksEvent.UsedBeyondStock(one),
            new BooksEvent.StockExplained(one),
            new BooksEvent.CountedMore(one),
            new BooksEvent.CountedLess(two),
            new BooksEvent.MoneyReceived(one, one),
            new BooksEvent.JobNotCharged(JOB, one),
            new BooksEvent.JobCalledOff(JOB, one),
            new BooksEvent.InvoicePosted(
                one.plus(two),
                two,
                List.of(
                    BooksEvent.Charged.work(
                        JOB, Map.of(Category.LABOUR, one), Map.of(Category.PARTS, two)))))) {
      JournalEntry entry = Posting.entryFor(event);
      assertThat(balance(entry, PostingCategory.values())).isEqualTo(Money.ZERO);
    }
  }

  @Test
  void a_stage_is_billed_ahead_of_work_and_leaves_the_cost_where_it_is() {
    assertThat(lines(Posting.entryFor(stage("3000.00", "600.00"))))
        .containsExactly(
            "TRADE_DEBTORS 3600.00 0.00",
            "BILLED_AHEAD_OF_WORK 0.00 3000.00",
            "OUTPUT_VAT 0.00 600.00");
  }

  @Test
  void sales_and_cost_of_stages_meet_in_the_final_invoice() {
    assertThat(lines(Posting.entryFor(lastOfStages())))
        .containsExactly(
            "TRADE_DEBTORS 3600.00 0.00",
            "SALES_OTHER 0.00 10000.00",
            "BILLED_AHEAD_OF_WORK 7000.00 0.00",
            "OUTPUT_VAT 0.00 600.00",
            "COST_OF_SALES_OTHER 6000.00 0.00",
            "WORK_IN_PROGRESS 0.00 6000.00");
  }

  @Test
  void a_credit_is_the_mirror_of_what_it_credits() {
    assertThat(lines(Posting.entryFor(new BooksEvent.CreditPosted(stage("3000.00", "600.00")))))
        .containsExactlyInAnyOrder(
            "TRADE_DEBTORS 0.00 3600.00",
            "BILLED_AHEAD_OF_WORK 3000.00 0.00",
            "OUTPUT_VAT 600.00 0.00");
  }

  private static BooksEvent.InvoicePosted stage(String net, String vat) {
    return new BooksEvent.InvoicePosted(
        Money.of(net).plus(Money.of(vat)),
        Money.of(vat),
        List.of(new BooksEvent.Charged(JOB, Map.of(), Map.of(), Money.of(net), Money.ZERO)));
  }

  private static BooksEvent.InvoicePosted lastOfStages() {
    return new BooksEvent.InvoicePosted(
        Money.of("3600.00"),
        Money.of("600.00"),
        List.of(
            new BooksEvent.Charged(
                JOB,
                Map.of(Category.OTHER, Money.of("10000.00")),
                Map.of(Category.OTHER, Money.of("6000.00")),
                Money.ZERO,
                Money.of("7000.00"))));
  }

  @Property
  void work_in_progress_is_nil_after_billing_what_was_approved_and_used(
      @ForAll @LongRange(min = 0, max = 1_000_000) long time,
      @ForAll @LongRange(min = 0, max = 1_000_000) long distance,
      @ForAll @LongRange(min = 0, max = 1_000_000) long parts) {
    var approved =
        new BooksEvent.TimeApproved(
            JOB, WIP, Money.ofMinor(time), Money.ofMinor(parts), Money.ofMinor(distance));
    var used = new BooksEvent.PartUsed(JOB, WIP, Money.ofMinor(parts));
    var invoice =
        new BooksEvent.InvoicePosted(
            Money.ZERO,
            Money.ZERO,
            List.of(
                BooksEvent.Charged.work(
                    JOB,
                    Map.of(),
                    Map.of(
                        Category.LABOUR,
                        approved.labour(),
                        Category.DRIVE,
                        approved.drive().plus(approved.distance()),
                        Category.PARTS,
                        used.cost()))));
    Money left =
        List.of(approved, used, invoice).stream()
            .map(event -> balance(Posting.entryFor(event), PostingCategory.WORK_IN_PROGRESS))
            .collect(Money.sum());
    assertThat(left).isEqualTo(Money.ZERO);
  }

  private static BooksEvent workedExampleInvoice() {
    Bill draft = billing().bill(job(), new TimeAndParts(), cover());
    CostSheet sheet = costing().cost(job());
    Map<Category, Money> costs =
        Arrays.stream(Category.values())
            .collect(
                Collectors.toMap(category -> category, category -> sheet.rung(category).actual()));
    return new BooksEvent.InvoicePosted(
        draft.vat().gross(),
        draft.vat().vat(),
        List.of(BooksEvent.Charged.work(JOB, draft.netByCategory(), costs)));
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
