package app.pragmata.server.books;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.COST_CENTRE;
import static app.pragmata.server.generated.Tables.JOURNAL_LINE;
import static app.pragmata.server.generated.Tables.POSTING_ACCOUNT;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.books.AccountKind;
import app.pragmata.core.books.PostingCategory;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.SettingsChanges;
import app.pragmata.server.generated.tables.records.AccountRecord;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The chart of accounts: which there are, and what goes where. */
@RestController
class AccountsApi {
  /** All of it, with the version that a change is sent with. */
  record AccountsSettings(
      int version,
      List<AccountSettings> accounts,
      List<PostingAccount> postings,
      List<CostCentreSettings> costCentres) {}

  /**
   * An account.
   *
   * @param used whether anything was ever posted to it, or goes to it
   */
  record AccountSettings(String code, String name, AccountKind kind, boolean used) {}

  /** To which account something goes from now on. */
  record PostingAccount(PostingCategory category, String accountCode) {}

  /** A part of the company that answers for what it sells and costs. */
  record CostCentreSettings(String code, String name) {}

  /** An account as typed; one that is there keeps its code and its kind. */
  record AccountForm(
      int version, @Nullable String code, @Nullable String name, @Nullable AccountKind kind) {}

  record PostingAccountForm(int version, @Nullable String accountCode) {}

  record CostCentreForm(int version, @Nullable String name) {}

  private final DSLContext database;
  private final SettingsChanges settings;

  AccountsApi(DSLContext database, SettingsChanges settings) {
    this.database = database;
    this.settings = settings;
  }

  @GetMapping("/api/settings/accounts")
  AccountsSettings listAccounts() {
    Set<String> used =
        database
            .select(POSTING_ACCOUNT.ACCOUNT_CODE)
            .from(POSTING_ACCOUNT)
            .fetchSet(POSTING_ACCOUNT.ACCOUNT_CODE);
    return new AccountsSettings(
        settings.version(),
        database
            .selectFrom(ACCOUNT)
            .orderBy(ACCOUNT.CODE)
            .fetch(
                row ->
                    new AccountSettings(
                        row.getCode(), row.getName(), row.getKind(), used.contains(row.getCode()))),
        database
            .selectFrom(POSTING_ACCOUNT)
            .where(POSTING_ACCOUNT.NOW)
            .orderBy(POSTING_ACCOUNT.POSTING_CATEGORY.sortAsc(PostingCategory.values()))
            .fetch(row -> new PostingAccount(row.getPostingCategory(), row.getAccountCode())),
        database
            .selectFrom(COST_CENTRE)
            .orderBy(COST_CENTRE.NAME)
            .fetch(row -> new CostCentreSettings(row.getCode(), row.getName())));
  }

  @PostMapping("/api/settings/accounts")
  @Transactional
  public AccountsSettings addAccount(Act act, @RequestBody AccountForm form) {
    var reading = new Reading();
    String code = reading.required("code", form.code(), AccountsApi::code);
    if (code != null && database.fetchExists(ACCOUNT, ACCOUNT.CODE.eq(code))) {
      reading.fault("code", Rule.REPEATED, "There is an account %s already.".formatted(code));
    }
    String name = reading.text("name", form.name(), 80);
    if (form.kind() == null) {
      reading.fault("kind", Rule.MISSING, "Choose where it stands in the books.");
    }
    reading.refuseIfFaulty();
    settings.change(
        act,
        CompanyEvent.ACCOUNT_CHANGED,
        form.version(),
        Map.of(),
        Map.of(Objects.requireNonNull(code), Objects.requireNonNull(name)));
    database.insertInto(ACCOUNT).values(code, name, Objects.requireNonNull(form.kind())).execute();
    return listAccounts();
  }

  /** Renames it. */
  @PutMapping("/api/settings/accounts/{code}")
  @Transactional
  public AccountsSettings changeAccount(
      Act act, @PathVariable String code, @RequestBody AccountForm form) {
    AccountRecord row = get(code);
    var reading = new Reading();
    String name = reading.text("name", form.name(), 80);
    reading.refuseIfFaulty();
    settings.change(
        act,
        CompanyEvent.ACCOUNT_CHANGED,
        form.version(),
        Map.of(code, row.getName()),
        Map.of(code, Objects.requireNonNull(name)));
    row.setName(name);
    row.store();
    return listAccounts();
  }

  /** Deletes one to which nothing ever went. */
  @DeleteMapping("/api/settings/accounts/{code}")
  @Transactional
  public AccountsSettings deleteAccount(
      Act act, @PathVariable String code, @RequestParam int version) {
    AccountRecord row = get(code);
    settings.change(
        act, CompanyEvent.ACCOUNT_CHANGED, version, Map.of(code, row.getName()), Map.of());
    // Whatever was posted to it was so by one of these.
    if (database.fetchExists(POSTING_ACCOUNT, POSTING_ACCOUNT.ACCOUNT_CODE.eq(code))) {
      throw new Refused(
          Rule.IN_USE,
          "%s %s is in the books, and what is there stays. Rename it instead."
              .formatted(code, row.getName()));
    }
    row.delete();
    return listAccounts();
  }

  /** Sends what is posted from now on to another account; what was posted stays where it is. */
  @PutMapping("/api/settings/posting-accounts/{category}")
  @Transactional
  public AccountsSettings changePostingAccount(
      Act act, @PathVariable PostingCategory category, @RequestBody PostingAccountForm form) {
    var reading = new Reading();
    String code = reading.text("accountCode", form.accountCode(), 12);
    AccountRecord account =
        code == null ? null : database.selectFrom(ACCOUNT).where(ACCOUNT.CODE.eq(code)).fetchOne();
    if (code != null && account == null) {
      reading.fault("accountCode", Rule.NOT_FOUND, "There is no account %s.".formatted(code));
    }
    if (account != null && !category.mayGoTo(account.getKind())) {
      reading.fault(
          "accountCode",
          Rule.WRONG_KIND,
          "%s %s is an account of %s; this belongs elsewhere in the books."
              .formatted(code, account.getName(), account.getKind().code()));
    }
    reading.refuseIfFaulty();
    String before = chosen(category);
    // Nobody posts while it moves.
    database.execute("lock table journal_line in share row exclusive mode");
    if (!before.equals(code)) {
      refuseBalance(category, before);
    }
    settings.change(
        act,
        CompanyEvent.POSTING_ACCOUNT_CHANGED,
        form.version(),
        Map.of(category.code(), before),
        Map.of(category.code(), Objects.requireNonNull(code)));
    database
        .update(POSTING_ACCOUNT)
        .set(POSTING_ACCOUNT.NOW, false)
        .where(POSTING_ACCOUNT.POSTING_CATEGORY.eq(category).and(POSTING_ACCOUNT.NOW))
        .execute();
    database
        .insertInto(POSTING_ACCOUNT)
        .values(category, code, true)
        .onConflict(POSTING_ACCOUNT.POSTING_CATEGORY, POSTING_ACCOUNT.ACCOUNT_CODE)
        .doUpdate()
        .set(POSTING_ACCOUNT.NOW, true)
        .execute();
    return listAccounts();
  }

  private String chosen(PostingCategory category) {
    return database
        .select(POSTING_ACCOUNT.ACCOUNT_CODE)
        .from(POSTING_ACCOUNT)
        .where(POSTING_ACCOUNT.POSTING_CATEGORY.eq(category).and(POSTING_ACCOUNT.NOW))
        .fetchOptional(POSTING_ACCOUNT.ACCOUNT_CODE)
        .orElse("");
  }

  /** What a control account holds would be told in two places. */
  private void refuseBalance(PostingCategory category, String code) {
    if (!category.mayGoTo(AccountKind.ASSET)) {
      return;
    }
    BigDecimal balance =
        database
            .select(sum(JOURNAL_LINE.DEBIT_MINOR.minus(JOURNAL_LINE.CREDIT_MINOR)))
            .from(JOURNAL_LINE)
            .where(JOURNAL_LINE.POSTING_CATEGORY.eq(category))
            .fetchSingle()
            .value1();
    if (balance != null && balance.signum() != 0) {
      throw new Refused(
          Rule.IN_USE,
          "Account %s holds money of this. It moves only while it holds none; it can be renamed at any time."
              .formatted(code));
    }
  }

  @PostMapping("/api/settings/cost-centres")
  @Transactional
  public AccountsSettings addCostCentre(Act act, @RequestBody CostCentreForm form) {
    var reading = new Reading();
    String name = centre(reading, form, "");
    String code =
        name == null
            ? ""
            : name.toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^-|-$", "")
                .transform(all -> all.substring(0, Math.min(all.length(), 30)));
    if (name != null && code.length() < 2) {
      reading.fault("name", Rule.TOO_SHORT, "Enter a name with at least two letters.");
    }
    if (database.fetchExists(COST_CENTRE, COST_CENTRE.CODE.eq(code))) {
      reading.fault("name", Rule.REPEATED, "There is a cost centre like this. Enter another name.");
    }
    reading.refuseIfFaulty();
    settings.change(
        act,
        CompanyEvent.COST_CENTRE_CHANGED,
        form.version(),
        Map.of(),
        Map.of(code, Objects.requireNonNull(name)));
    database.insertInto(COST_CENTRE).values(code, name).execute();
    return listAccounts();
  }

  /** Renames it. */
  @PutMapping("/api/settings/cost-centres/{code}")
  @Transactional
  public AccountsSettings changeCostCentre(
      Act act, @PathVariable String code, @RequestBody CostCentreForm form) {
    var row =
        database
            .selectFrom(COST_CENTRE)
            .where(COST_CENTRE.CODE.eq(code))
            .fetchOptional()
            .orElseThrow(
                () -> new Refused(Rule.NOT_FOUND, "There is no cost centre %s.".formatted(code)));
    var reading = new Reading();
    String name = centre(reading, form, code);
    reading.refuseIfFaulty();
    settings.change(
        act,
        CompanyEvent.COST_CENTRE_CHANGED,
        form.version(),
        Map.of(code, row.getName()),
        Map.of(code, Objects.requireNonNull(name)));
    row.setName(name);
    row.store();
    return listAccounts();
  }

  private @Nullable String centre(Reading reading, CostCentreForm form, String code) {
    String name = reading.text("name", form.name(), 60);
    if (name != null
        && database.fetchExists(
            COST_CENTRE, COST_CENTRE.NAME.equalIgnoreCase(name).and(COST_CENTRE.CODE.ne(code)))) {
      reading.fault("name", Rule.REPEATED, "There is a cost centre of this name. Enter another.");
    }
    return name;
  }

  private AccountRecord get(String code) {
    return database
        .selectFrom(ACCOUNT)
        .where(ACCOUNT.CODE.eq(code))
        .fetchOptional()
        .orElseThrow(() -> new Refused(Rule.NOT_FOUND, "There is no account %s.".formatted(code)));
  }

  private static String code(String typed) {
    String code = typed.toUpperCase(Locale.ROOT);
    if (!code.matches("[0-9A-Z-]{1,12}")) {
      throw new Unreadable(
          Rule.UNREADABLE, "An account's number has at most twelve digits and letters.");
    }
    return code;
  }
}
