/** A job: how it comes to be, its visits and its facts, and by when somebody has to be there. */
@NullMarked
package app.pragmata.server.jobs;

import org.jspecify.annotations.NullMarked;
