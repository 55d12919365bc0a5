package app.pragmata.server.finding;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.SearchWords;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The one field over HTTP. */
@RestController
class FindApi {
  private static final int SHORTEST = 2;

  private final FindStore store;
  private final CompanyStore companies;

  FindApi(FindStore store, CompanyStore companies) {
    this.store = store;
    this.companies = companies;
  }

  /** Nothing for a single letter or for a text that nobody would say. */
  @GetMapping("/api/find")
  List<FindStore.Hit> findAnything(@RequestParam(defaultValue = "") String q) {
    String typed = SearchWords.first(companies.getCompany().numbering().bare(q));
    return typed.length() < SHORTEST || q.strip().length() > SearchWords.LONGEST
        ? List.of()
        : store.find(typed);
  }

  /** What a document's number stands for; refused when there is none of this number. */
  @GetMapping("/api/documents/{kind}/{number}")
  FindStore.Numbered findDocument(@PathVariable DocumentKind kind, @PathVariable long number) {
    return store
        .findDocument(kind, number)
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND,
                    "There is no %s %d. Find the right one with / and any words of it."
                        .formatted(kind.code(), number)));
  }

  /** Sites to choose from by any words of the customer or the place; at most 30. */
  @GetMapping("/api/sites")
  List<FindStore.SiteChoice> listSites(@RequestParam(defaultValue = "") String q) {
    return store.listSites(SearchWords.first(q));
  }
}
