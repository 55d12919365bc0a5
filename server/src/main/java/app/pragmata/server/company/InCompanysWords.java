package app.pragmata.server.company;

import app.pragmata.core.Fault;
import app.pragmata.core.Refused;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import java.util.function.Supplier;
import org.springframework.stereotype.Component;

/**
 * What is refused is told to customers in the language of the company's documents: in English by
 * the rule's own words, in another by what holds for all refusals by that rule.
 */
@Component
public class InCompanysWords {
  private final CompanyStore companies;

  InCompanysWords(CompanyStore companies) {
    this.companies = companies;
  }

  /** What the work gives, or its refusal in those words. */
  public <T> T say(Supplier<T> work) {
    try {
      return work.get();
    } catch (Refused refused) {
      Wording wording = companies.getCompany().wording();
      if (wording.isEnglish()) {
        throw refused;
      }
      throw new Refused(
          refused.faults().stream()
              .map(
                  fault ->
                      new Fault(
                          fault.field(),
                          fault.rule(),
                          Phrase.ofRefusal(fault.rule()).map(wording::say).orElse(fault.message())))
              .toList());
    }
  }
}
