/** Who works here, and what they may do. */
@NullMarked
package app.pragmata.core.people;

import org.jspecify.annotations.NullMarked;
