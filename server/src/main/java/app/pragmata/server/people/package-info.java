/** Who works here, what they may do, and the company's settings and rates. */
@NullMarked
package app.pragmata.server.people;

import org.jspecify.annotations.NullMarked;
