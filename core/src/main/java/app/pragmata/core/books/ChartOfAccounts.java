package app.pragmata.core.books;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.util.Locale;
import java.util.Map;

/** Which account each posting category goes to. */
public record ChartOfAccounts(Map<PostingCategory, String> accountByCategory) {
  public ChartOfAccounts {
    accountByCategory = Map.copyOf(accountByCategory);
  }

  /**
   * The account's code; refused when the chart names none, for nothing may be posted into nowhere.
   */
  public String accountFor(PostingCategory category) {
    String code = accountByCategory.get(category);
    if (code == null) {
      throw new Refused(
          Rule.NO_ACCOUNT_FOR_CATEGORY,
          "No account is set for “%s”. Set one in the chart of accounts, then post again."
              .formatted(category.name().toLowerCase(Locale.ROOT).replace('_', ' ')));
    }
    return code;
  }
}
