/** What somebody has to do by a day, and what came of it. */
@NullMarked
package app.pragmata.server.todos;

import org.jspecify.annotations.NullMarked;
