/** What others change, told to every open page. */
@NullMarked
package app.pragmata.server.live;

import org.jspecify.annotations.NullMarked;
