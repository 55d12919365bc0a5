package app.pragmata.server.calls;

import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.FAULT_TALK;
import static app.pragmata.server.generated.Tables.TALK_ANSWER;
import static app.pragmata.server.generated.Tables.TALK_QUESTION;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.calls.FaultTalk;
import app.pragmata.core.calls.FaultTalk.Answer;
import app.pragmata.core.calls.FaultTalk.LeadsTo;
import app.pragmata.core.calls.FaultTalk.Question;
import app.pragmata.server.generated.tables.records.TalkAnswerRecord;
import app.pragmata.server.generated.tables.records.TalkQuestionRecord;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Repository;

/** Fault talks as the database keeps them. */
@Repository
class FaultTalkStore {
  private final DSLContext database;

  FaultTalkStore(DSLContext database) {
    this.database = database;
  }

  /** The talk about a kind of equipment; one without questions when there is none yet. */
  FaultTalk get(long equipmentKindId) {
    var answers =
        multiset(
                select(
                        TALK_ANSWER.TEXT,
                        TALK_ANSWER.NEXT_QUESTION,
                        TALK_ANSWER.SOLUTION,
                        TALK_ANSWER.FAULT_CODE,
                        TALK_ANSWER.PRIORITY,
                        TALK_ANSWER.EXPECTED_MINUTES)
                    .from(TALK_ANSWER)
                    .where(TALK_ANSWER.FAULT_TALK_ID.eq(TALK_QUESTION.FAULT_TALK_ID))
                    .and(TALK_ANSWER.QUESTION_NUMBER.eq(TALK_QUESTION.NUMBER))
                    .orderBy(TALK_ANSWER.POSITION))
            .convertFrom(rows -> rows.map(FaultTalkStore::answer));
    return new FaultTalk(
        database
            .select(TALK_QUESTION.NUMBER, TALK_QUESTION.TEXT, answers)
            .from(TALK_QUESTION)
            .join(FAULT_TALK)
            .on(FAULT_TALK.ID.eq(TALK_QUESTION.FAULT_TALK_ID))
            .where(FAULT_TALK.EQUIPMENT_KIND_ID.eq(equipmentKindId))
            .orderBy(TALK_QUESTION.NUMBER)
            .fetch(row -> new Question(row.value1(), row.value2(), row.value3())));
  }

  private static Answer answer(Record row) {
    String text = row.get(TALK_ANSWER.TEXT);
    Short next = row.get(TALK_ANSWER.NEXT_QUESTION);
    String solution = row.get(TALK_ANSWER.SOLUTION);
    String faultCode = row.get(TALK_ANSWER.FAULT_CODE);
    if (next != null) {
      return new Answer(text, new LeadsTo.Next(next));
    }
    return new Answer(
        text,
        solution != null
            ? new LeadsTo.Solved(solution, faultCode)
            : new LeadsTo.Visit(
                faultCode, row.get(TALK_ANSWER.PRIORITY), row.get(TALK_ANSWER.EXPECTED_MINUTES)));
  }

  /** Puts a talk without faults in the place of the old one. */
  void replace(long talkId, FaultTalk talk) {
    database.deleteFrom(TALK_ANSWER).where(TALK_ANSWER.FAULT_TALK_ID.eq(talkId)).execute();
    database.deleteFrom(TALK_QUESTION).where(TALK_QUESTION.FAULT_TALK_ID.eq(talkId)).execute();
    var questions = new ArrayList<TalkQuestionRecord>();
    var answers = new ArrayList<TalkAnswerRecord>();
    for (Question question : talk.questions()) {
      questions.add(new TalkQuestionRecord(talkId, (short) question.number(), question.text()));
      for (int position = 1; position <= question.answers().size(); position++) {
        answers.add(row(talkId, question.number(), position, question.answers().get(position - 1)));
      }
    }
    database.batchInsert(questions).execute();
    database.batchInsert(answers).execute();
  }

  private static TalkAnswerRecord row(long talkId, int question, int position, Answer answer) {
    var row = new TalkAnswerRecord();
    row.setFaultTalkId(talkId);
    row.setQuestionNumber((short) question);
    row.setPosition((short) position);
    row.setText(answer.text());
    switch (answer.leadsTo()) {
      case LeadsTo.Next next -> row.setNextQuestion((short) next.question());
      case LeadsTo.Solved solved -> {
        row.setSolution(solved.solution());
        row.setFaultCode(solved.faultCode());
      }
      case LeadsTo.Visit visit -> {
        row.setFaultCode(visit.faultCode());
        row.setPriority(visit.priority());
        row.setExpectedMinutes(visit.expectedMinutes());
      }
    }
    return row;
  }

  /** The kinds that have a talk, each with how many questions. */
  List<TalkOfKind> list() {
    return database
        .select(
            EQUIPMENT_KIND.ID,
            EQUIPMENT_KIND.NAME,
            field(
                select(count())
                    .from(TALK_QUESTION)
                    .join(FAULT_TALK)
                    .on(FAULT_TALK.ID.eq(TALK_QUESTION.FAULT_TALK_ID))
                    .where(FAULT_TALK.EQUIPMENT_KIND_ID.eq(EQUIPMENT_KIND.ID))))
        .from(EQUIPMENT_KIND)
        .orderBy(EQUIPMENT_KIND.NAME)
        .fetch(mapping(TalkOfKind::new));
  }

  /** A kind of equipment and how many questions are asked about it; none when it has no talk. */
  record TalkOfKind(long equipmentKindId, String equipmentKind, int questions) {}
}
