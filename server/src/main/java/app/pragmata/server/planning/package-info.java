/** Who goes where and when, and how a job follows its visits. */
@NullMarked
package app.pragmata.server.planning;

import org.jspecify.annotations.NullMarked;
