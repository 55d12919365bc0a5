/** Checklists that the office writes, and what was answered to them on visits. */
@NullMarked
package app.pragmata.server.checklists;

import org.jspecify.annotations.NullMarked;
