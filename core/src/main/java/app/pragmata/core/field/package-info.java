/** What a technician records: clocks, visits and the parts used. */
@NullMarked
package app.pragmata.core.field;

import org.jspecify.annotations.NullMarked;
