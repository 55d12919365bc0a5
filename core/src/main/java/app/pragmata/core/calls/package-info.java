/** What is asked on the phone, and where the answers lead. */
@NullMarked
package app.pragmata.core.calls;

import org.jspecify.annotations.NullMarked;
