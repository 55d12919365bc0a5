package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CHECKLIST_ITEM;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.Records.mapping;

import app.pragmata.core.field.PocketStep;
import app.pragmata.core.field.Tap;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.checklists.VisitChecklists.AnswerForm;
import app.pragmata.server.field.FieldService.FinishForm;
import app.pragmata.server.field.FieldService.HandBackForm;
import app.pragmata.server.field.FieldService.LateForm;
import app.pragmata.server.field.FieldService.PartForm;
import app.pragmata.server.field.FieldService.TickForm;
import app.pragmata.server.field.FittedEquipment.SerialNumberForm;
import app.pragmata.server.field.JobMessages.MessageForm;
import app.pragmata.server.field.MoneyOnSite.MoneyForm;
import app.pragmata.server.field.OwnTimes.NoteTimeForm;
import app.pragmata.server.field.OwnTimes.OwnTimeForm;
import app.pragmata.server.field.ToldPrices.ToldPriceForm;
import app.pragmata.server.field.UnlistedParts.UnlistedPartForm;
import app.pragmata.server.field.Weeks.WeekForm;
import app.pragmata.server.generated.tables.records.LateActRecord;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What phones kept without a network, over HTTP. */
@RestController
class LateActsApi {
  /**
   * All that came in late from one person on one visit and waits for an answer.
   *
   * @param visitId null for what was done on no visit, as is everything about its job
   * @param visitState how the visit stands by now
   * @param technician whose the visit is by now; null for nobody's
   */
  record LateVisit(
      long personId,
      String person,
      @Nullable Long visitId,
      VisitState.@Nullable Code visitState,
      @Nullable String technician,
      @Nullable Long jobNumber,
      @Nullable String customer,
      @Nullable String title,
      List<LateTapped> taps,
      List<LateStretch> times) {}

  /**
   * Something that was tapped.
   *
   * @param at when, by our clock
   * @param tappedAt by the phone's clock, as is when it was sent
   * @param clockAheadMinutes by how much the phone's clock was ahead of ours, or behind where it is
   *     less than nothing; none where nobody would mind
   * @param said what was typed with it; empty for nothing
   * @param detail why it could not be taken
   */
  record LateTapped(
      long id,
      PocketStep step,
      LocalDateTime at,
      Instant tappedAt,
      Instant sentAt,
      Instant cameInAt,
      int clockAheadMinutes,
      String said,
      String detail) {}

  /**
   * Time that the taps tell of.
   *
   * @param lateActId of the tap that began it
   * @param work of other paid time; empty for everything else
   * @param to null where no tap says when it ended
   * @param minutes null as long as it has no end
   */
  record LateStretch(
      long lateActId,
      String person,
      TimeEntry.Kind kind,
      String work,
      LocalDateTime from,
      @Nullable LocalDateTime to,
      @Nullable Integer minutes,
      BigDecimal miles) {}

  private record OnVisit(
      VisitState.Code state,
      @Nullable String technician,
      long jobNumber,
      String customer,
      String title) {}

  /** What a phone sends at once. */
  record LatePackage(@Nullable List<LateActs.LateActForm> acts) {}

  /** All that a phone still has to send; no visits once it has sent everything. */
  record UnsentForm(@Nullable List<PhonesBehind.@Nullable Unsent> visits) {}

  private final DSLContext database;
  private final PhonesBehind phones;
  private final LateActs acts;
  private final LateWork late;
  private final LateAnswers answers;

  LateActsApi(
      DSLContext database, PhonesBehind phones, LateActs acts, LateWork late, LateAnswers answers) {
    this.database = database;
    this.phones = phones;
    this.acts = acts;
    this.late = late;
    this.answers = answers;
  }

  /**
   * Sends what was tapped while there was no network, in the order in which it was. Gives what
   * became of each; one that is sent again under its key is not done again.
   */
  @PostMapping("/api/pocket/late-acts")
  List<LateActs.CameIn> sendLateActs(Act act, @RequestBody LatePackage form) {
    return acts.takeAll(act, form.acts());
  }

  /**
   * Says how much of which visits is still on the phone, so that the office does not check early.
   */
  @PutMapping("/api/pocket/unsent")
  void noteUnsent(Act act, @RequestBody UnsentForm form) {
    phones.note(act, form.visits());
  }

  /** All that waits for an answer, what was tapped first at the top. */
  @GetMapping("/api/late-acts")
  List<LateVisit> listLateActs(Act act) {
    List<LateActRecord> waiting = late.listWaiting();
    var together = new LinkedHashMap<List<Object>, List<LateActRecord>>();
    for (LateActRecord row : waiting) {
      together
          .computeIfAbsent(
              List.of(row.getPersonId(), Objects.requireNonNullElse(row.getVisitId(), 0L)),
              key -> new ArrayList<>())
          .add(row);
    }
    Map<Long, String> names = names();
    return together.values().stream().map(rows -> lateVisit(act, rows, waiting, names)).toList();
  }

  private Map<Long, String> names() {
    return database.select(PERSON.ID, PERSON.NAME).from(PERSON).fetchMap(PERSON.ID, PERSON.NAME);
  }

  private LateVisit lateVisit(
      Act act, List<LateActRecord> rows, List<LateActRecord> waiting, Map<Long, String> names) {
    LateActRecord first = rows.getFirst();
    OnVisit visit = first.getVisitId() == null ? null : onVisit(first.getVisitId());
    return new LateVisit(
        first.getPersonId(),
        name(names, first.getPersonId()),
        first.getVisitId(),
        visit == null ? null : visit.state(),
        visit == null ? null : visit.technician(),
        visit == null ? null : visit.jobNumber(),
        visit == null ? null : visit.customer(),
        visit == null ? null : visit.title(),
        rows.stream().map(row -> tapped(act, row)).toList(),
        late.times(act, rows, waiting).stream().map(one -> stretch(act, one, names)).toList());
  }

  private static String name(Map<Long, String> names, long id) {
    return names.getOrDefault(id, "");
  }

  private OnVisit onVisit(long visitId) {
    return database
        .select(VISIT.STATE, PERSON.NAME, JOB.NUMBER, CUSTOMER.NAME, JOB.TITLE)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .leftJoin(PERSON)
        .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
        .where(VISIT.ID.eq(visitId))
        .fetchSingle(mapping(OnVisit::new));
  }

  private LateTapped tapped(Act act, LateActRecord row) {
    return new LateTapped(
        row.getId(),
        row.getStep(),
        LocalDateTime.ofInstant(row.getCountedAt(), act.zone()),
        row.getTappedAt(),
        row.getSentAt(),
        row.getCameInAt(),
        Tap.minutesAhead(row.getSentAt(), row.getCameInAt()),
        said(row),
        row.getDetail());
  }

  private String said(LateActRecord row) {
    return switch (row.getStep()) {
      case FINISH -> {
        FinishForm form = late.form(row, FinishForm.class);
        yield words(
            form.outcome() == null ? null : form.outcome().code().replace('_', ' '),
            form.reason(),
            form.note());
      }
      case USE_PART -> {
        PartForm form = late.form(row, PartForm.class);
        yield words(form.quantity(), partName(form.partId()));
      }
      case NOTE_UNLISTED_PART -> {
        UnlistedPartForm form = late.form(row, UnlistedPartForm.class);
        yield words(form.quantity(), form.name());
      }
      case WANT_PART -> {
        WantForm form = late.form(row, WantForm.class);
        yield words(form.quantity(), partName(form.partId()), form.words());
      }
      case ANSWER_CHECKLIST -> {
        AnswerForm form = late.form(row, AnswerForm.class);
        yield words(
            question(form.checklistItemId()),
            form.doesNotApply() ? "does not apply" : form.answer(),
            form.word());
      }
      case TICK_LINE -> {
        TickForm form = late.form(row, TickForm.class);
        yield words(lineOf(form.lineId()), Boolean.TRUE.equals(form.done()) ? "" : "not done");
      }
      case NOTE_SERIAL_NUMBER -> words(late.form(row, SerialNumberForm.class).serialNumber());
      case SEND_MESSAGE -> words(late.form(row, MessageForm.class).text());
      case TELL_LATE -> words(late.form(row, LateForm.class).late());
      case TELL_PRICE -> {
        ToldPriceForm form = late.form(row, ToldPriceForm.class);
        yield words(form.told(), Boolean.FALSE.equals(form.withVat()) ? "without VAT" : "with VAT");
      }
      case TAKE_MONEY -> {
        MoneyForm form = late.form(row, MoneyForm.class);
        yield words(
            form.amount(),
            form.method() == null ? null : form.method().code().replace('_', ' '),
            form.receiptTo());
      }
      case SIGN_WEEK_OFF -> words(String.valueOf(late.form(row, WeekForm.class).monday()));
      case HAND_BACK -> words(late.form(row, HandBackForm.class).reason());
      case NOTE_TIME -> {
        NoteTimeForm form = late.form(row, NoteTimeForm.class);
        OwnTimeForm time = form.time();
        yield words(
            form.day().toString(), time.from(), "to", time.to(), time.work(), time.reason());
      }
      default -> "";
    };
  }

  private static String words(@Nullable String... parts) {
    return Stream.of(parts)
        .filter(part -> part != null && !part.isBlank())
        .collect(Collectors.joining(" "));
  }

  private @Nullable String lineOf(@Nullable Long id) {
    return id == null
        ? null
        : database.fetchValue(PROMISED_LINE.DESCRIPTION, PROMISED_LINE.ID.eq(id));
  }

  private @Nullable String partName(@Nullable Long id) {
    return id == null ? null : database.fetchValue(PART.NAME, PART.ID.eq(id));
  }

  private @Nullable String question(@Nullable Long id) {
    return id == null
        ? null
        : database.fetchValue(CHECKLIST_ITEM.QUESTION, CHECKLIST_ITEM.ID.eq(id));
  }

  private static LateStretch stretch(Act act, LateWork.OfPerson one, Map<Long, String> names) {
    Instant to = one.time().to();
    return new LateStretch(
        one.time().tapId(),
        name(names, one.personId()),
        one.time().kind(),
        one.time().work(),
        LocalDateTime.ofInstant(one.time().from(), act.zone()),
        to == null ? null : LocalDateTime.ofInstant(to, act.zone()),
        to == null ? null : TimeEntry.minutesBetween(one.time().from(), to),
        one.time().miles());
  }

  /** It counts, and is written down. */
  @PostMapping("/api/late-acts/write-down")
  void writeLateActsDown(Act act, @RequestBody LateAnswers.WriteDownForm form) {
    answers.writeDown(act, form);
  }

  /** It does not count. */
  @PostMapping("/api/late-acts/refuse")
  void refuseLateActs(Act act, @RequestBody LateAnswers.RefuseForm form) {
    answers.refuse(act, form);
  }
}
