/** Which technician goes where, when and for how long. */
@NullMarked
package app.pragmata.core.planning;

import org.jspecify.annotations.NullMarked;
