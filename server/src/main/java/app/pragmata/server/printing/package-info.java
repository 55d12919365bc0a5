/** Pages as PDF, set in the program's own type. */
@NullMarked
package app.pragmata.server.printing;

import org.jspecify.annotations.NullMarked;
