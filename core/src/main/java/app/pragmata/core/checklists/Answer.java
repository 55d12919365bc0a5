package app.pragmata.core.checklists;

/**
 * What was answered to one question of a checklist.
 *
 * @param text yes or no, one of the choices, the number in its plain form without a unit, or words
 * @param outOfLimits whether it is an answer that should not be left as it is
 */
public record Answer(String text, boolean outOfLimits) {}
