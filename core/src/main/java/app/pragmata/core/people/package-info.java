/** Wages, rate classes and the rates in force on a day. */
@NullMarked
package app.pragmata.core.people;

import org.jspecify.annotations.NullMarked;
