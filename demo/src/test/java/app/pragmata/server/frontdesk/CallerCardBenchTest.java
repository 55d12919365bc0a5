package app.pragmata.server.frontdesk;

import static app.pragmata.server.generated.Tables.CUSTOMER;

import app.pragmata.core.people.Role;
import app.pragmata.server.Bench;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import app.pragmata.server.receipts.DebtStore;
import app.pragmata.server.records.Act;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Cards of customers with few and with many jobs, and every list, on the large company. */
@Tag("bench")
class CallerCardBenchTest {
  private static final List<String> LISTS =
      List.of(
          "/api/money-line",
          "/api/worklists/quoted",
          "/api/worklists/quoted?sort=customer",
          "/api/worklists/quoted?filter=bakery",
          "/api/worklists/won?sort=margin",
          "/api/worklists/booked",
          "/api/worklists/booked?technicianId=8",
          "/api/worklists/worked?sort=value",
          "/api/worklists/checked",
          "/api/worklists/billed",
          "/api/worklists/billed?sort=customer",
          "/api/worklists/billed?filter=bakery",
          "/api/worklists/paid",
          "/api/worklists/paid?sort=value",
          "/api/worklists/paid?filter=bakery",
          "/api/customers",
          "/api/customers?filter=bakery",
          "/api/customers?filter=mr",
          "/api/customers?sort=owed",
          "/api/customers?sort=owed&filter=mr",
          "/api/to-dos?whose=all",
          "/api/quotes/follow-up",
          "/api/figures/faults?from=1%20November",
          "/api/customers/100001/documents",
          "/api/books/journal",
          "/api/books/accounts/1100",
          "/api/books/trial-balance");

  private final RunningPragmata program = RunningPragmata.large();

  @Test
  void callers_cards_against_their_bare_statements() {
    Visitor office = Visitor.signedIn(program, "hester");
    var database = program.database();
    List<Long> ids =
        database
            .select(CUSTOMER.ID)
            .from(CUSTOMER)
            .where(CUSTOMER.ID.mod(4_801).eq(7L))
            .fetch(CUSTOMER.ID);
    var act = new Act(1, Role.OFFICE, program.clock().instant(), ZoneId.of("Europe/London"));
    var bare =
        ids.stream()
            .map(
                id ->
                    Bench.statements(
                        database,
                        dsl -> new CallerCardStore(dsl, new DebtStore(dsl)).find(act, id)))
            .toList();
    Bench.compare(
        "caller's card, large company",
        i -> office.get("/api/customers/" + ids.get(i % ids.size())),
        i -> Bench.runBare(database, bare.get(i % ids.size())));
  }

  @Test
  void every_list_on_its_first_and_a_later_page() {
    Visitor office = Visitor.signedIn(program, "hester");
    for (String list : LISTS) {
      String next = office.get(list).json().path("next").asString("");
      String later = list + (list.contains("?") ? "&" : "?") + "after=" + next;
      Bench.Times times =
          Bench.measure(i -> office.get(next.isEmpty() || i % 2 == 0 ? list : later));
      System.out.printf("%-44s %5.1f ms %5.1f ms%n", list, times.median(), times.percentile95());
    }
  }
}
