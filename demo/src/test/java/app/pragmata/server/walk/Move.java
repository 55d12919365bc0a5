package app.pragmata.server.walk;

import app.pragmata.server.Visitor.Answer;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;

/** Everything that anybody does on a walk, and how often. */
enum Move {
  NEW_CUSTOMER(3, QuoteMoves::newCustomer),
  CHANGE_CUSTOMER(2, QuoteMoves::changeCustomer),
  MERGE_CUSTOMERS(1, QuoteMoves::mergeCustomers),
  CALL(4, QuoteMoves::call),
  QUOTE(5, QuoteMoves::quote),
  COPY_QUOTE(1, QuoteMoves::copy),
  SEND_QUOTE(8, QuoteMoves::send),
  ACCEPT_QUOTE(4, QuoteMoves::accept),
  DECLINE_QUOTE(1, QuoteMoves::decline),
  TAKE_QUOTE_BACK(1, QuoteMoves::takeBack),
  CUSTOMER_ANSWERS(4, QuoteMoves::customerAnswers),
  MAKE_JOB(6, QuoteMoves::makeJob),
  EXTRA_WORK(3, QuoteMoves::extraWork),
  AGREE_ROUND(2, RoundMoves::agree),
  OPEN_ROUND(3, RoundMoves::open),
  TIME_PASSES(3, WorkMoves::timePasses),
  NIGHT_PASSES(1, WorkMoves::nightPasses),
  DELIVERY(2, StockMoves::deliver),
  PLAN(10, WorkMoves::plan),
  FURTHER_VISIT(2, WorkMoves::furtherVisit),
  TAP(30, WorkMoves::tap),
  OFF_VISIT(4, WorkMoves::offVisit),
  CORRECT_OWN_TIME(2, WorkMoves::correctOwnTime),
  SIGN_WEEK_OFF(2, WorkMoves::signWeekOff),
  NOT_AS_PLANNED(2, WorkMoves::notAsPlanned),
  CAME_IN_LATE(5, LateMoves::cameInLate),
  MONEY_ON_SITE(2, OnSiteMoves::money),
  MESSAGE(2, OnSiteMoves::message),
  EXTRA_WORK_ON_SITE(4, OnSiteMoves::extraWork),
  UNLISTED_PART(4, WorkMoves::unlistedPart),
  WRITE_CHECKLIST(2, ChecklistMoves::write),
  TICK_LINE(3, OnSiteMoves::tick),
  ANSWER_CHECKLIST(4, ChecklistMoves::answer),
  SIGN_LATER(3, CustomerMoves::signLater),
  WRITE_WITH_CUSTOMER(2, CustomerMoves::write),
  SEND_REPORT(2, CustomerMoves::sendReport),
  ADD_PART(5, WorkMoves::partOnSite),
  SEND_WAGES(1, WorkMoves::sendWages),
  CORRECT_PART(2, WorkMoves::correctPart),
  REMOVE_PART(1, WorkMoves::removePart),
  ADD_TIME(8, WorkMoves::addTime),
  CORRECT_TIME(3, WorkMoves::correctTime),
  REMOVE_TIME(1, WorkMoves::removeTime),
  CHECK(8, WorkMoves::check),
  CHECK_ALL(3, WorkMoves::checkAll),
  TAKE_CHECKS_BACK(2, WorkMoves::takeChecksBack),
  TAKE_CHECK_BACK(1, WorkMoves::reopen),
  NOT_THIS_TIME(2, WorkMoves::notThisTime),
  CALL_OFF_VISIT(1, WorkMoves::callOffVisit),
  CALL_OFF_JOB(1, WorkMoves::callOffJob),
  OTHER_COST(2, WorkMoves::otherCost),
  CHARGE(2, WorkMoves::charge),
  TELL_PRICE(1, WorkMoves::tellPrice),
  ORDER_WORK(2, WorkMoves::orderWork),
  CLOSE_WORK_ORDER(2, WorkMoves::closeWorkOrder),
  REMOVE_CHARGE(1, WorkMoves::removeCharge),
  COUNT_PART(1, StockMoves::count),
  HAND_PART_OVER(2, StockMoves::handOver),
  ANSWER_HANDOVER(2, StockMoves::answerHandover),
  WANT_PART(2, PartMoves::want),
  STEP_OF_PART(5, PartMoves::step),
  FIT_PART(1, PartMoves::fit),
  BASIS(2, MoneyMoves::basis),
  VAT(1, MoneyMoves::vat),
  INVOICE(5, MoneyMoves::invoice),
  CLOSE_ALL(2, MoneyMoves::closeAll),
  BILL_STAGE(3, MoneyMoves::billStage),
  BILL_PART(2, MoneyMoves::billPart),
  CREDIT(3, MoneyMoves::credit),
  PAY(7, MoneyMoves::pay),
  PAY_AHEAD(3, MoneyMoves::payAhead),
  ALLOCATE(3, MoneyMoves::allocate),
  TAKE_ALLOCATION_BACK(1, MoneyMoves::takeAllocationBack),
  TAKE_RECEIPT_BACK(1, MoneyMoves::takeReceiptBack),
  GIVE_BACK(1, MoneyMoves::giveBack),
  NOTE_TO_DO(1, MoneyMoves::noteToDo),
  CLOSE_TO_DO(1, MoneyMoves::closeToDo);

  private final int weight;

  @SuppressWarnings("ImmutableEnumChecker") // A reference to a static method holds nothing.
  private final BiFunction<WalkedCompany, Dice, @Nullable Answer> act;

  Move(int weight, BiFunction<WalkedCompany, Dice, @Nullable Answer> act) {
    this.weight = weight;
    this.act = act;
  }

  int weight() {
    return weight;
  }

  /** Null where there is nothing yet to do it to. */
  @Nullable Answer make(WalkedCompany company, Dice dice) {
    return act.apply(company, dice);
  }
}
