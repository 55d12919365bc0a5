/** The company: who it is, when it works, and the terms that price and cost, each from a day on. */
@NullMarked
package app.pragmata.server.company;

import org.jspecify.annotations.NullMarked;
