/** What technicians record. */
@NullMarked
package app.pragmata.core.field;

import org.jspecify.annotations.NullMarked;
