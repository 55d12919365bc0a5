package app.pragmata.server.field;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.PocketStep;
import app.pragmata.server.checklists.VisitChecklists.AnswerForm;
import app.pragmata.server.field.FieldService.ComingForm;
import app.pragmata.server.field.FieldService.FinishForm;
import app.pragmata.server.field.FieldService.HandBackForm;
import app.pragmata.server.field.FieldService.LateForm;
import app.pragmata.server.field.FieldService.PartForm;
import app.pragmata.server.field.FieldService.TickForm;
import app.pragmata.server.field.FittedEquipment.SerialNumberForm;
import app.pragmata.server.field.JobMessages.MessageForm;
import app.pragmata.server.field.MoneyOnSite.MoneyForm;
import app.pragmata.server.field.OwnTimes.NoteTimeForm;
import app.pragmata.server.field.ToldPrices.ToldPriceForm;
import app.pragmata.server.field.UnlistedParts.UnlistedPartForm;
import app.pragmata.server.field.Weeks.WeekForm;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** Does what was tapped on the phone earlier, exactly as if it came now. */
@Component
class LateStep {
  /** A part as it stands on a visit. */
  record UseForm(@Nullable Long visitPartId) {}

  private final Clocks clocks;
  private final FieldService service;
  private final UnlistedParts unlisted;
  private final JobMessages messages;
  private final FittedEquipment fitted;
  private final OwnTimes ownTimes;
  private final ToldPrices told;
  private final MoneyOnSite money;
  private final Weeks weeks;
  private final JsonMapper json;

  LateStep(
      Clocks clocks,
      FieldService service,
      UnlistedParts unlisted,
      JobMessages messages,
      FittedEquipment fitted,
      OwnTimes ownTimes,
      ToldPrices told,
      MoneyOnSite money,
      Weeks weeks,
      JsonMapper json) {
    this.clocks = clocks;
    this.service = service;
    this.unlisted = unlisted;
    this.messages = messages;
    this.fitted = fitted;
    this.ownTimes = ownTimes;
    this.told = told;
    this.money = money;
    this.weeks = weeks;
    this.json = json;
  }

  /**
   * Takes a step under the key that it had from the start.
   *
   * @param visitId where it is on a visit
   * @param form as its own address takes it
   */
  void take(
      Act act,
      @Nullable String key,
      PocketStep step,
      @Nullable Long visitId,
      Map<String, Object> form) {
    if (step == PocketStep.START_CLOCK) {
      clocks.start(act, key, read(form, Clocks.ClockForm.class));
    } else if (step == PocketStep.STOP_CLOCK) {
      clocks.stop(act, key, read(form, StepForm.class));
    } else if (step == PocketStep.NOTE_TIME) {
      ownTimes.note(act, key, read(form, NoteTimeForm.class));
    } else if (step == PocketStep.SIGN_WEEK_OFF) {
      weeks.signOff(act, monday(read(form, WeekForm.class)));
    } else {
      takeOnVisit(act, key, step, Objects.requireNonNull(visitId), form);
    }
  }

  /** Refuses a form that its step cannot take. */
  void check(PocketStep step, Map<String, Object> form) {
    Class<?> kind =
        switch (step) {
          case DRIVE, ARRIVE, START_WORK, PAUSE, STOP_CLOCK -> StepForm.class;
          case START_CLOCK -> Clocks.ClockForm.class;
          case FINISH -> FinishForm.class;
          case USE_PART -> PartForm.class;
          case PUT_PART_BACK -> UseForm.class;
          case NOTE_SERIAL_NUMBER -> SerialNumberForm.class;
          case NOTE_UNLISTED_PART -> UnlistedPartForm.class;
          case WANT_PART -> WantForm.class;
          case ANSWER_CHECKLIST -> AnswerForm.class;
          case TICK_LINE -> TickForm.class;
          case SEND_MESSAGE -> MessageForm.class;
          case ACCEPT_VISIT -> ComingForm.class;
          case TELL_LATE -> LateForm.class;
          case TELL_PRICE -> ToldPriceForm.class;
          case TAKE_MONEY -> MoneyForm.class;
          case HAND_BACK -> HandBackForm.class;
          case NOTE_TIME -> NoteTimeForm.class;
          case SIGN_WEEK_OFF -> WeekForm.class;
        };
    if (read(form, kind) instanceof MoneyForm paid) {
      MoneyOnSite.requireKeepable(paid);
    }
  }

  /** The week that a form names; refused where it names none. */
  static LocalDate monday(WeekForm form) {
    if (form.monday() == null) {
      throw new Refused(Rule.MISSING, "Say which week is signed off, by its Monday.");
    }
    return form.monday();
  }

  private void takeOnVisit(
      Act act, @Nullable String key, PocketStep step, long visitId, Map<String, Object> form) {
    switch (step) {
      case DRIVE -> clocks.drive(act, key, visitId, read(form, StepForm.class));
      case ARRIVE -> clocks.arrive(act, key, visitId, read(form, StepForm.class));
      case START_WORK -> clocks.startWork(act, key, visitId, read(form, StepForm.class));
      case PAUSE -> clocks.pause(act, key, visitId, read(form, StepForm.class));
      case FINISH -> service.finish(act, key, visitId, read(form, FinishForm.class));
      case USE_PART -> service.addPart(act, key, visitId, read(form, PartForm.class));
      case PUT_PART_BACK ->
          service.removePart(
              act,
              visitId,
              Objects.requireNonNullElse(read(form, UseForm.class).visitPartId(), 0L));
      case NOTE_SERIAL_NUMBER -> fitted.note(act, key, visitId, read(form, SerialNumberForm.class));
      case NOTE_UNLISTED_PART ->
          unlisted.note(act, key, visitId, read(form, UnlistedPartForm.class));
      case WANT_PART -> service.wantPart(act, key, visitId, read(form, WantForm.class));
      case ANSWER_CHECKLIST ->
          service.answerChecklist(act, key, visitId, read(form, AnswerForm.class));
      case TICK_LINE -> service.tickLine(act, key, visitId, read(form, TickForm.class));
      case SEND_MESSAGE -> messages.send(act, key, visitId, read(form, MessageForm.class));
      case ACCEPT_VISIT -> service.accept(act, key, visitId);
      case TELL_LATE -> service.beLate(act, key, visitId, read(form, LateForm.class));
      case TELL_PRICE -> told.note(act, key, visitId, read(form, ToldPriceForm.class));
      case TAKE_MONEY -> money.take(act, key, visitId, read(form, MoneyForm.class));
      case HAND_BACK -> service.handBack(act, key, visitId, read(form, HandBackForm.class));
      case START_CLOCK, STOP_CLOCK, NOTE_TIME, SIGN_WEEK_OFF ->
          throw new IllegalArgumentException(step.code());
    }
  }

  /** A form of its kind; refused when it is none. */
  <Form> Form read(Map<String, Object> form, Class<Form> kind) {
    try {
      return json.convertValue(form, kind);
    } catch (JacksonException | IllegalArgumentException unreadable) {
      throw new Refused(
          Rule.UNREADABLE,
          "What this phone kept cannot be read. Tell the office what it was, and reload the page.");
    }
  }
}
