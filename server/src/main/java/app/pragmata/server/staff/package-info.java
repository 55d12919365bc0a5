/** Who works here: starters, their roles and wages, and leavers. */
@NullMarked
package app.pragmata.server.staff;

import org.jspecify.annotations.NullMarked;
