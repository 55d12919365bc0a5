/** What technicians record and what the office corrects. */
@NullMarked
package app.pragmata.server.field;

import org.jspecify.annotations.NullMarked;
