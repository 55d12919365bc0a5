package app.pragmata.core.books;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Balanced lines of one event; an entry that does not balance cannot be built. Empty when the event
 * moves no money.
 */
public record JournalEntry(List<Line> lines) {
  /**
   * One side of an entry: exactly one of debit and credit is above nothing.
   *
   * @param of the job that it is of; null on the lines of control accounts, which are of none
   */
  public record Line(PostingCategory category, @Nullable CostObject of, Money debit, Money credit) {
    public Line {
      if (category.isOfJobs() != (of != null)) {
        throw new IllegalArgumentException(category + " of " + of);
      }
      if (debit.isNegative() || credit.isNegative() || debit.isPositive() == credit.isPositive()) {
        throw new IllegalArgumentException(
            "A line is either debit or credit, not " + debit + " and " + credit);
      }
    }

    Line mirrored() {
      return new Line(category, of, /* debit= */ credit, /* credit= */ debit);
    }
  }

  public JournalEntry {
    lines = List.copyOf(lines);
    Money debits = lines.stream().map(Line::debit).collect(Money.sum());
    Money credits = lines.stream().map(Line::credit).collect(Money.sum());
    if (!debits.equals(credits)) {
      throw new Refused(
          Rule.UNBALANCED_ENTRY,
          "The entry does not balance: debit " + debits + ", credit " + credits + ".");
    }
  }

  public Money total() {
    return lines.stream().map(Line::debit).collect(Money.sum());
  }

  /** The entry that undoes this one. */
  public JournalEntry reversed() {
    return new JournalEntry(lines.stream().map(Line::mirrored).toList());
  }

  /**
   * Collects the lines of an entry; amounts of nothing leave no line, negative ones change sides.
   */
  static final class Builder {
    private final List<Line> lines = new ArrayList<>();

    Builder debit(PostingCategory category, Money amount) {
      return add(category, null, amount);
    }

    Builder credit(PostingCategory category, Money amount) {
      return add(category, null, amount.negated());
    }

    Builder debit(PostingCategory category, CostObject of, Money amount) {
      return add(category, of, amount);
    }

    Builder credit(PostingCategory category, CostObject of, Money amount) {
      return add(category, of, amount.negated());
    }

    private Builder add(PostingCategory category, @Nullable CostObject of, Money signed) {
      if (signed.isPositive()) {
        lines.add(new Line(category, of, signed, Money.ZERO));
      } else if (signed.isNegative()) {
        lines.add(new Line(category, of, Money.ZERO, signed.negated()));
      }
      return this;
    }

    /** The lines of another entry with their sides changed. */
    Builder mirrored(JournalEntry entry) {
      lines.addAll(entry.reversed().lines());
      return this;
    }

    JournalEntry build() {
      return new JournalEntry(lines);
    }
  }
}
