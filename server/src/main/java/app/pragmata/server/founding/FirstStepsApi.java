package app.pragmata.server.founding;

import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Coded;
import app.pragmata.server.mail.MailServers;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** What a company that was just founded does next. */
@RestController
class FirstStepsApi {
  enum Step implements Coded {
    PEOPLE,
    PRICE_LIST,
    CUSTOMERS,
    MAIL,
    BACKUP
  }

  /** Whether a step was done. */
  record FirstStep(Step step, boolean done) {}

  private final DSLContext database;
  private final MailServers mail;

  FirstStepsApi(DSLContext database, MailServers mail) {
    this.database = database;
    this.mail = mail;
  }

  /** In the order in which they are best done; none when all were. */
  @GetMapping("/api/first-steps")
  List<FirstStep> listFirstSteps() {
    var colleagues = selectOne().from(PERSON).where(PERSON.ACTIVE).offset(1);
    List<FirstStep> steps =
        database
            .select(
                field(exists(colleagues)),
                field(exists(selectOne().from(PART))),
                field(exists(selectOne().from(CUSTOMER))),
                field(
                    exists(
                        select(COMPANY.ID).from(COMPANY).where(COMPANY.BACKED_UP_AT.isNotNull()))))
            .fetchSingle(
                row ->
                    List.of(
                        new FirstStep(Step.PEOPLE, row.value1()),
                        new FirstStep(Step.PRICE_LIST, row.value2()),
                        new FirstStep(Step.CUSTOMERS, row.value3()),
                        new FirstStep(Step.MAIL, mail.isSet()),
                        new FirstStep(Step.BACKUP, row.value4())));
    return steps.stream().allMatch(FirstStep::done) ? List.of() : steps;
  }
}
