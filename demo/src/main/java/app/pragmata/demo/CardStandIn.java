package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.CARD_STAND_IN;

import app.pragmata.server.receipts.CardAnswered;
import app.pragmata.server.receipts.CardTerminal;
import java.time.Clock;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * A card terminal of our own that moves no real money. The last digit of the card says how it
 * behaves: 2 is declined; 3 does not answer and takes nothing; 4 takes the money and its answer is
 * lost; 5 takes it and says so twice; 6 never says anything; any other is taken.
 */
@Component
@Transactional(propagation = Propagation.REQUIRES_NEW)
class CardStandIn implements CardTerminal {
  private final DSLContext database;
  private final Clock clock;
  private final ApplicationEventPublisher answers;

  CardStandIn(DSLContext database, Clock clock, ApplicationEventPublisher answers) {
    this.database = database;
    this.clock = clock;
    this.answers = answers;
  }

  @Override
  public String notice() {
    return "This is the demo's card stand-in: no real money moves, and any 12 to 19 digits will do.";
  }

  @Override
  public Answer charge(String reference, long amountMinor, String card) {
    char behaviour = card.charAt(card.length() - 1);
    if (behaviour == '3') {
      return Answer.NONE;
    }
    Boolean taken = behaviour == '6' ? null : behaviour != '2';
    database
        .insertInto(CARD_STAND_IN)
        .set(CARD_STAND_IN.REFERENCE, reference)
        .set(CARD_STAND_IN.AMOUNT_MINOR, amountMinor)
        .set(CARD_STAND_IN.TAKEN, taken)
        .set(CARD_STAND_IN.AT, clock.instant())
        .onConflictDoNothing()
        .execute();
    if (behaviour == '5') {
      answers.publishEvent(new CardAnswered(reference, Answer.TAKEN));
    }
    return behaviour == '4' ? Answer.NONE : find(reference);
  }

  @Override
  public Answer find(String reference) {
    var asked =
        database
            .select(CARD_STAND_IN.TAKEN)
            .from(CARD_STAND_IN)
            .where(CARD_STAND_IN.REFERENCE.eq(reference))
            .fetchOne();
    if (asked == null) {
      return Answer.NOT_TAKEN;
    }
    Boolean taken = asked.value1();
    return taken == null ? Answer.NONE : taken ? Answer.TAKEN : Answer.DECLINED;
  }
}
