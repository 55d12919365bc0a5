package app.pragmata.server.field;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.checklists.VisitChecklists;
import app.pragmata.server.checklists.VisitChecklists.AnswerForm;
import app.pragmata.server.field.FieldService.FinishForm;
import app.pragmata.server.field.FieldService.PartForm;
import app.pragmata.server.field.FieldService.TickForm;
import app.pragmata.server.field.FittedEquipment.SerialNumberForm;
import app.pragmata.server.field.JobMessages.MessageForm;
import app.pragmata.server.field.MoneyOnSite.MoneyForm;
import app.pragmata.server.field.ToldPrices.ToldPriceForm;
import app.pragmata.server.field.UnlistedParts.UnlistedPartForm;
import app.pragmata.server.generated.tables.records.LateActRecord;
import app.pragmata.server.jobs.LinesDone;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.partswanted.PartsWanted;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.records.Act;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Writes down on visits what came in late beside the time: parts, answers, messages, money. */
@Component
class LateRecords {
  private final LateWork late;
  private final VisitStore visits;
  private final CheckService check;
  private final FieldService field;
  private final UnlistedParts unlisted;
  private final PartsWanted wanted;
  private final VisitChecklists checklists;
  private final LinesDone lines;
  private final FittedEquipment fitted;
  private final ToldPrices told;
  private final MoneyOnSite money;
  private final JobMessages messages;

  LateRecords(
      LateWork late,
      VisitStore visits,
      CheckService check,
      FieldService field,
      UnlistedParts unlisted,
      PartsWanted wanted,
      VisitChecklists checklists,
      LinesDone lines,
      FittedEquipment fitted,
      ToldPrices told,
      MoneyOnSite money,
      JobMessages messages) {
    this.late = late;
    this.visits = visits;
    this.check = check;
    this.field = field;
    this.unlisted = unlisted;
    this.wanted = wanted;
    this.checklists = checklists;
    this.lines = lines;
    this.fitted = fitted;
    this.told = told;
    this.money = money;
    this.messages = messages;
  }

  /**
   * Writes down one of them, as what whoever tapped has done; parts are the office's. Clocks are
   * written as the time that they tell of, and not here.
   *
   * @param visitId where its time is written; null where none came with it, and then what needs
   *     none is written on the visit that was tapped on
   * @param reason that it came in late, and why
   * @throws Refused for parts of which nothing says on which day they were fitted
   */
  void write(Act act, LateActRecord row, @Nullable Long visitId, String reason) {
    Act technician = act.byTechnician(row.getPersonId());
    switch (row.getStep()) {
      case USE_PART -> {
        PartForm part = late.form(row, PartForm.class);
        check.addPart(
            act,
            withTime(visitId),
            Objects.requireNonNullElse(part.partId(), 0L),
            FieldService.readQuantity(part));
      }
      case NOTE_UNLISTED_PART ->
          unlisted.note(
              technician, visits.lock(withTime(visitId)), late.form(row, UnlistedPartForm.class));
      case NOTE_SERIAL_NUMBER ->
          fitted.note(
              technician, visits.lock(withTime(visitId)), late.form(row, SerialNumberForm.class));
      case WANT_PART ->
          wanted.want(technician, lockAny(row, visitId), late.form(row, WantForm.class));
      case ANSWER_CHECKLIST ->
          checklists.answer(
              technician, lockAny(row, visitId), late.form(row, AnswerForm.class), reason);
      case TICK_LINE -> {
        TickForm form = late.form(row, TickForm.class);
        lines.tick(
            technician,
            lockAny(row, visitId),
            Objects.requireNonNullElse(form.lineId(), 0L),
            Boolean.TRUE.equals(form.done()),
            row.getCountedAt());
      }
      case TELL_PRICE ->
          told.note(technician, lockAny(row, visitId), late.form(row, ToldPriceForm.class));
      case TAKE_MONEY ->
          money.writeDown(
              technician,
              "late act " + row.getId(),
              visits.lock(row.getVisitId()),
              late.form(row, MoneyForm.class),
              act.dayOf(row.getCountedAt()));
      case SEND_MESSAGE ->
          messages.send(
              technician, visits.lock(row.getVisitId()), late.form(row, MessageForm.class));
      case FINISH -> finish(technician, withTime(visitId), row);
      default -> {}
    }
  }

  private LockedVisit lockAny(LateActRecord row, @Nullable Long visitId) {
    return visits.lock(visitId == null ? row.getVisitId() : visitId);
  }

  private static long withTime(@Nullable Long visitId) {
    if (visitId == null) {
      throw new Refused(
          Rule.MISSING,
          "No time came with these parts, so nothing says on which day they were fitted. Write the time and the parts down on the job, then say here that it does not count.");
    }
    return visitId;
  }

  /** What came of it, in the words of whoever was there. */
  private void finish(Act technician, long visitId, LateActRecord row) {
    LockedVisit visit = visits.lock(visitId);
    if (visit.state() instanceof VisitState.Finished finished) {
      field.finish(
          technician,
          visit,
          finished,
          field.read(late.form(row, FinishForm.class)),
          row.getCountedAt());
    }
  }
}
