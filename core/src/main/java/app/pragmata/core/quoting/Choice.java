package app.pragmata.core.quoting;

import app.pragmata.core.Coded;

/** Whether a line belongs to the offer in any case, or the customer decides. */
public sealed interface Choice {
  /** Part of the offer whatever the customer chooses. */
  record Included() implements Choice {}

  /** Added if it is wanted. */
  record Option(boolean taken) implements Choice {}

  /** One of several, of which exactly one is chosen; they share the group's name. */
  record Alternative(String group, boolean taken) implements Choice {}

  /** Whether the line counts as things stand. */
  default boolean counts() {
    return switch (this) {
      case Included included -> true;
      case Option option -> option.taken();
      case Alternative alternative -> alternative.taken();
    };
  }

  /** The choices by name. */
  enum Code implements Coded {
    INCLUDED,
    OPTION,
    ALTERNATIVE
  }

  /** Which choice it is. */
  default Code code() {
    return switch (this) {
      case Included included -> Code.INCLUDED;
      case Option option -> Code.OPTION;
      case Alternative alternative -> Code.ALTERNATIVE;
    };
  }

  /** The name that alternatives share; empty for anything else. */
  default String groupName() {
    return this instanceof Alternative alternative ? alternative.group() : "";
  }
}
