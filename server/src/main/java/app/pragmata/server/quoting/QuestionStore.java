package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.QUOTE_QUESTION;
import static app.pragmata.server.generated.Tables.TO_DO;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.QuoteQuestionRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoState;
import java.time.LocalDateTime;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What customers asked about quotes, and what we answered. */
@Component
class QuestionStore {
  /** A question; the answer is null while it waits for one. */
  record Asked(long id, String question, LocalDateTime askedAt, @Nullable String answer) {}

  private final DSLContext database;
  private final QuoteStore quotes;
  private final QuoteLetters letters;
  private final LinkStore links;
  private final ToDoService toDos;

  QuestionStore(
      DSLContext database,
      QuoteStore quotes,
      QuoteLetters letters,
      LinkStore links,
      ToDoService toDos) {
    this.database = database;
    this.quotes = quotes;
    this.letters = letters;
    this.links = links;
    this.toDos = toDos;
  }

  List<Asked> list(Act act, long quoteId) {
    return database
        .selectFrom(QUOTE_QUESTION)
        .where(QUOTE_QUESTION.QUOTE_ID.eq(quoteId))
        .orderBy(QUOTE_QUESTION.ID)
        .fetch(
            row ->
                new Asked(
                    row.getId(),
                    row.getQuestion(),
                    LocalDateTime.ofInstant(row.getAskedAt(), act.zone()),
                    row.getAnswer()));
  }

  /** Stores the answer, mails it and closes the to-do, once; gives the quote. */
  long answer(Act act, long questionId, String answer) {
    QuoteQuestionRecord asked =
        database
            .selectFrom(QUOTE_QUESTION)
            .where(QUOTE_QUESTION.ID.eq(questionId))
            .forUpdate()
            .fetchOne();
    if (asked == null) {
      throw new Refused(Rule.NOT_FOUND, "This question does not exist. Reload the page.");
    }
    if (asked.getAnswer() != null) {
      throw new Refused(Rule.QUESTION_ANSWERED, "Somebody answered this question before.");
    }
    asked.setAnswer(answer);
    asked.setAnsweredAt(act.at());
    asked.setAnsweredBy(act.personId());
    asked.update();
    var toDo =
        database.selectFrom(TO_DO).where(TO_DO.ID.eq(asked.getToDoId())).forUpdate().fetchOne();
    if (toDo != null && toDo.getState() == ToDoState.OPEN) {
      String outcome = "Answered: " + answer;
      toDos.close(
          act,
          toDo.getId(),
          toDo.getVersion(),
          true,
          outcome.length() > 300 ? outcome.substring(0, 300) : outcome);
    }
    links
        .find(asked.getQuoteId())
        .ifPresent(
            link ->
                letters.answer(
                    act,
                    quotes.get(asked.getQuoteId()),
                    asked.getQuestion(),
                    answer,
                    links.address(link.getToken())));
    return asked.getQuoteId();
  }
}
