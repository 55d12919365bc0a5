package app.pragmata.core;

/**
 * One thing that is wrong with what was entered.
 *
 * @param field the entered field as a path such as {@code lines/0/price}; empty when no single
 *     field is at fault
 * @param rule the rule that it breaks
 * @param message what is wrong and what to do, fit for the screen
 */
public record Fault(String field, Rule rule, String message) {}
