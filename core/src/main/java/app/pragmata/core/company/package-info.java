/** The company: who it is, when it works, and the terms that price and cost, each from a day on. */
@NullMarked
package app.pragmata.core.company;

import org.jspecify.annotations.NullMarked;
