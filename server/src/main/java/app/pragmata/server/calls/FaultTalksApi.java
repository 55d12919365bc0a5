package app.pragmata.server.calls;

import static app.pragmata.server.generated.Tables.CAUSE_CODE;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.FAULT_CODE;
import static app.pragmata.server.generated.Tables.FAULT_TALK;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.calls.FaultTalk;
import app.pragmata.core.calls.FaultTalk.Answer;
import app.pragmata.core.calls.FaultTalk.LeadsTo;
import app.pragmata.core.calls.FaultTalk.Question;
import app.pragmata.core.company.Priority;
import app.pragmata.core.jobs.VisitLength;
import app.pragmata.core.money.Minutes;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.Versions;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Fault talks and the codes of faults and causes over HTTP; the office edits all of them. */
@RestController
class FaultTalksApi {
  /** The talk about one kind of equipment. */
  record TalkSheet(
      long equipmentKindId, String equipmentKind, int version, List<TypedQuestion> questions) {}

  record TalkForm(int version, List<TypedQuestion> questions) {}

  record TypedQuestion(int number, @Nullable String text, List<TypedAnswer> answers) {}

  /** An answer as it is typed. */
  record TypedAnswer(
      @Nullable String text,
      LeadsTo.Code leadsTo,
      @Nullable Integer next,
      @Nullable String solution,
      @Nullable String faultCode,
      @Nullable Priority priority,
      @Nullable String expected) {}

  /** The codes of faults and of causes, those in use first. */
  record Codes(List<Code> faults, List<Code> causes) {}

  record Code(String code, String name, boolean active) {}

  record CodeForm(@Nullable String name, boolean active) {}

  private final FaultTalkStore talks;
  private final Events events;
  private final DSLContext database;

  FaultTalksApi(FaultTalkStore talks, Events events, DSLContext database) {
    this.talks = talks;
    this.events = events;
    this.database = database;
  }

  @GetMapping("/api/fault-talks")
  List<FaultTalkStore.TalkOfKind> listFaultTalks() {
    return talks.list();
  }

  @GetMapping("/api/fault-talks/{kindId}")
  TalkSheet getFaultTalk(@PathVariable long kindId) {
    String kind =
        database
            .select(EQUIPMENT_KIND.NAME)
            .from(EQUIPMENT_KIND)
            .where(EQUIPMENT_KIND.ID.eq(kindId))
            .fetchOne(EQUIPMENT_KIND.NAME);
    if (kind == null) {
      throw new Refused(
          Rule.NOT_FOUND, "There is no such kind of equipment. Choose one from the list.");
    }
    Integer version =
        database
            .select(FAULT_TALK.VERSION)
            .from(FAULT_TALK)
            .where(FAULT_TALK.EQUIPMENT_KIND_ID.eq(kindId))
            .fetchOne(FAULT_TALK.VERSION);
    return new TalkSheet(
        kindId,
        kind,
        version == null ? 0 : version,
        talks.get(kindId).questions().stream().map(FaultTalksApi::typed).toList());
  }

  private static TypedQuestion typed(Question question) {
    return new TypedQuestion(
        question.number(),
        question.text(),
        question.answers().stream().map(FaultTalksApi::typed).toList());
  }

  private static TypedAnswer typed(Answer answer) {
    return switch (answer.leadsTo()) {
      case LeadsTo.Next next ->
          new TypedAnswer(
              answer.text(), LeadsTo.Code.QUESTION, next.question(), null, null, null, null);
      case LeadsTo.Solved solved ->
          new TypedAnswer(
              answer.text(),
              LeadsTo.Code.SOLVED,
              null,
              solved.solution(),
              solved.faultCode(),
              null,
              null);
      case LeadsTo.Visit visit ->
          new TypedAnswer(
              answer.text(),
              LeadsTo.Code.VISIT,
              null,
              null,
              visit.faultCode(),
              visit.priority(),
              Minutes.text(visit.expectedMinutes()));
    };
  }

  /** Puts the typed talk in the place of the stored one. */
  @PutMapping("/api/fault-talks/{kindId}")
  @Transactional
  public TalkSheet saveFaultTalk(Act act, @PathVariable long kindId, @RequestBody TalkForm form) {
    var reading = new Reading();
    FaultTalk talk = read(form, reading);
    talk.check(reading);
    reading.refuseIfFaulty();
    TalkSheet before = getFaultTalk(kindId);
    Versions.require(form.version(), before.version());
    long id =
        database
            .insertInto(FAULT_TALK)
            .set(FAULT_TALK.EQUIPMENT_KIND_ID, kindId)
            .onConflict(FAULT_TALK.EQUIPMENT_KIND_ID)
            .doUpdate()
            .set(FAULT_TALK.VERSION, FAULT_TALK.VERSION.plus(1))
            .returning(FAULT_TALK.ID)
            .fetchSingle(FAULT_TALK.ID);
    talks.replace(id, talk);
    TalkSheet after = getFaultTalk(kindId);
    events.tell(
        act,
        CallEvent.TALK_SAVED,
        id,
        About.NOTHING.with(
            Map.of("questions", before.questions()), Map.of("questions", after.questions())));
    return after;
  }

  private FaultTalk read(TalkForm form, Reading reading) {
    Set<String> faultCodes =
        new HashSet<>(database.select(FAULT_CODE.CODE).from(FAULT_CODE).fetch(FAULT_CODE.CODE));
    var questions = new ArrayList<Question>();
    for (int i = 0; i < form.questions().size(); i++) {
      TypedQuestion typed = form.questions().get(i);
      String at = "questions/" + i;
      String text = reading.text(at + "/text", typed.text(), 200);
      var answers = new ArrayList<Answer>();
      for (int k = 0; k < typed.answers().size(); k++) {
        String of = at + "/answers/" + k;
        TypedAnswer answer = typed.answers().get(k);
        String said = reading.text(of + "/text", answer.text(), 100);
        answers.add(
            new Answer(
                Objects.requireNonNullElse(said, ""), leadsTo(of, answer, faultCodes, reading)));
      }
      questions.add(new Question(typed.number(), Objects.requireNonNullElse(text, ""), answers));
    }
    return new FaultTalk(questions);
  }

  private static LeadsTo leadsTo(
      String at, TypedAnswer answer, Set<String> faultCodes, Reading reading) {
    String faultCode =
        answer.faultCode() == null || answer.faultCode().isBlank() ? null : answer.faultCode();
    if (faultCode != null && !faultCodes.contains(faultCode)) {
      reading.fault(at + "/faultCode", Rule.NOT_FOUND, "There is no such fault code.");
    }
    return switch (answer.leadsTo()) {
      case SOLVED -> {
        String solution = reading.text(at + "/solution", answer.solution(), 1_000);
        yield new LeadsTo.Solved(Objects.requireNonNullElse(solution, ""), faultCode);
      }
      case VISIT -> {
        Priority priority = answer.priority();
        if (priority == null) {
          reading.fault(at + "/priority", Rule.MISSING, "Choose how pressing the visit is.");
        }
        Integer expected =
            reading.required(at + "/expected", answer.expected(), VisitLength::parse);
        yield new LeadsTo.Visit(
            faultCode,
            Objects.requireNonNullElse(priority, Priority.NORMAL),
            Objects.requireNonNullElse(expected, 60));
      }
      case QUESTION -> new LeadsTo.Next(Objects.requireNonNullElse(answer.next(), 0));
    };
  }

  @GetMapping("/api/codes")
  Codes listJobCodes() {
    return new Codes(
        database
            .selectFrom(FAULT_CODE)
            .orderBy(FAULT_CODE.ACTIVE.desc(), FAULT_CODE.NAME)
            .fetch(row -> new Code(row.getCode(), row.getName(), row.getActive())),
        database
            .selectFrom(CAUSE_CODE)
            .orderBy(CAUSE_CODE.ACTIVE.desc(), CAUSE_CODE.NAME)
            .fetch(row -> new Code(row.getCode(), row.getName(), row.getActive())));
  }

  /** Adds a fault code, renames it, or takes it out of use; nothing that carries it is lost. */
  @PutMapping("/api/codes/faults/{code}")
  @Transactional
  public Codes saveFault(Act act, @PathVariable String code, @RequestBody CodeForm form) {
    String name = read(code, form);
    database
        .insertInto(FAULT_CODE)
        .values(code, name, form.active())
        .onConflict(FAULT_CODE.CODE)
        .doUpdate()
        .set(FAULT_CODE.NAME, name)
        .set(FAULT_CODE.ACTIVE, form.active())
        .execute();
    tell(act, CallEvent.FAULT_CODE_SAVED, code, form, name);
    return listJobCodes();
  }

  /** The same for a cause code. */
  @PutMapping("/api/codes/causes/{code}")
  @Transactional
  public Codes saveCause(Act act, @PathVariable String code, @RequestBody CodeForm form) {
    String name = read(code, form);
    database
        .insertInto(CAUSE_CODE)
        .values(code, name, form.active())
        .onConflict(CAUSE_CODE.CODE)
        .doUpdate()
        .set(CAUSE_CODE.NAME, name)
        .set(CAUSE_CODE.ACTIVE, form.active())
        .execute();
    tell(act, CallEvent.CAUSE_CODE_SAVED, code, form, name);
    return listJobCodes();
  }

  private static String read(String code, CodeForm form) {
    var reading = new Reading();
    if (!code.matches("[A-Z0-9-]{2,12}")) {
      reading.fault(
          "code",
          Rule.UNREADABLE,
          "A code has 2 to 12 capitals, digits or hyphens, such as GATE-STUCK.");
    }
    String name = reading.text("name", form.name(), 80);
    reading.refuseIfFaulty();
    return Objects.requireNonNull(name);
  }

  /** Codes are known by themselves, not by a number. */
  private void tell(Act act, CallEvent event, String code, CodeForm form, String name) {
    events.tell(
        act,
        event,
        0,
        About.NOTHING.with(Map.of(), Map.of("code", code, "name", name, "active", form.active())));
  }
}
