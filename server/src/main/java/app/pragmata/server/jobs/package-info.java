/** The promise to do work: how a job comes to be, and by when somebody has to be there. */
@NullMarked
package app.pragmata.server.jobs;

import org.jspecify.annotations.NullMarked;
