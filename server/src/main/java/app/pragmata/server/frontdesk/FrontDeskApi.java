package app.pragmata.server.frontdesk;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.customers.CustomerService;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** A customer with all that is known of them, and what changes the whole card. */
@RestController
class FrontDeskApi {
  record MergeForm(int version, @Nullable Long intoId) {}

  private final CustomerService service;
  private final CallerCardStore cards;
  private final DoubleStore doubles;

  FrontDeskApi(CustomerService service, CallerCardStore cards, DoubleStore doubles) {
    this.service = service;
    this.cards = cards;
    this.doubles = doubles;
  }

  @GetMapping("/api/customers/{id}")
  CallerCard getCallerCard(Act act, @PathVariable long id) {
    return cards
        .find(act, id)
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND,
                    "This customer does not exist. Find the right one with / and the name."));
  }

  /** Customers who may be the one that is being typed, the likeliest first; at most five. */
  @GetMapping("/api/customers/doubles")
  List<DoubleStore.Likely> listDoubles(
      @RequestParam(defaultValue = "") String name,
      @RequestParam(defaultValue = "") String phone,
      @RequestParam(defaultValue = "") String place,
      @RequestParam(defaultValue = "0") long except) {
    return doubles.list(name, phone, place, except);
  }

  @PutMapping("/api/customers/{id}")
  CallerCard saveCustomer(
      Act act, @PathVariable long id, @RequestBody CustomerService.CustomerForm form) {
    service.save(act, id, form);
    return getCallerCard(act, id);
  }

  @PostMapping("/api/customers/{id}/merge")
  CallerCard mergeCustomer(Act act, @PathVariable long id, @RequestBody MergeForm form) {
    service.merge(act, id, form.version(), form.intoId());
    return getCallerCard(act, id);
  }
}
