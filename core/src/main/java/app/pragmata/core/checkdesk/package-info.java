/** What the office looks at before it says that recorded work is correct. */
@NullMarked
package app.pragmata.core.checkdesk;

import org.jspecify.annotations.NullMarked;
