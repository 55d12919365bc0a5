package app.pragmata.server.frontdesk;

import app.pragmata.core.calls.CallOutcome;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.receipts.Debt;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** All that should be known about a caller before anything is promised. Money is in minor units. */
record CallerCard(
    long id,
    int version,
    long number,
    String name,
    String phone,
    String email,
    String address,
    String postcode,
    int paymentDays,
    String vatNumber,
    @Nullable String vatCode,
    boolean pricesWithVat,
    @Nullable String reference,
    @Nullable Long priceListId,
    @Nullable String priceList,
    @Nullable Long responseTermsId,
    @Nullable String responseTerms,
    Debt debt,
    List<PinnedNote> notes,
    List<ContactOf> contacts,
    List<SiteOf> sites,
    List<OpenQuote> openQuotes,
    List<OpenJob> openJobs,
    List<VisitOf> nextVisits,
    List<VisitOf> lastVisits,
    List<InvoiceOf> invoices,
    List<CallOf> calls,
    List<ToDoOf> toDos,
    List<FormerCustomer> tookIn) {

  record PinnedNote(long id, String text, String by, LocalDateTime at) {}

  /** Somebody to speak to; the site is null for one who speaks for the customer everywhere. */
  record ContactOf(
      long id,
      int version,
      @Nullable Long siteId,
      @Nullable String site,
      String name,
      String phone,
      String email,
      boolean pays,
      boolean opens,
      boolean decides) {}

  /**
   * Where the work is.
   *
   * @param opens from when on somebody can get in; null for at all hours, as is until when
   */
  record SiteOf(
      long id,
      int version,
      String name,
      String address,
      String postcode,
      String area,
      @Nullable BigDecimal latitude,
      @Nullable BigDecimal longitude,
      @Nullable LocalTime opens,
      @Nullable LocalTime closes,
      String accessNotes,
      List<EquipmentOf> equipment) {}

  /**
   * A piece at a site.
   *
   * @param parts the warranty of its parts; null when it never had one
   * @param labour the warranty of labour on it; null when it never had one
   * @param replacedBy the serial number of the piece in its place; null while it stands
   */
  record EquipmentOf(
      long id,
      int version,
      @Nullable Long equipmentKindId,
      @Nullable String kind,
      String model,
      String serialNumber,
      LocalDate fittedOn,
      String position,
      @Nullable WarrantyOf parts,
      @Nullable WarrantyOf labour,
      @Nullable LocalDate removedOn,
      @Nullable Long replacedById,
      @Nullable String replacedBy,
      boolean photo) {}

  /** A warranty with the share that it covers; it runs until the end of its last day. */
  record WarrantyOf(LocalDate until, String percent, boolean running) {}

  record OpenQuote(
      long id,
      long number,
      String title,
      QuoteState.Code state,
      long netMinor,
      LocalDate validUntil) {}

  /** A job that is not settled, with what makes another one like it. */
  record OpenJob(
      long id,
      long number,
      String title,
      JobState.Code state,
      @Nullable LocalDateTime respondBy,
      boolean late) {}

  /**
   * A visit; day, start and technician are null while it is unplanned, the reason says why one did
   * not happen.
   */
  record VisitOf(
      long id,
      long jobId,
      long jobNumber,
      String title,
      long kindOfJobId,
      long siteId,
      @Nullable Long equipmentId,
      @Nullable LocalDate day,
      @Nullable LocalTime start,
      @Nullable String technician,
      VisitState.Code state,
      String reason,
      String note) {}

  record InvoiceOf(
      long id,
      long number,
      long jobId,
      LocalDate invoiceDate,
      LocalDate dueDate,
      long grossMinor,
      long owedMinor) {}

  record CallOf(
      long id,
      LocalDateTime at,
      String by,
      String about,
      CallOutcome outcome,
      @Nullable String solution,
      @Nullable Long jobId,
      @Nullable Long quoteId) {}

  record ToDoOf(long id, String what, String forPerson, LocalDate due) {}

  /** A customer that was merged into this one. */
  record FormerCustomer(long number, String name) {}
}
