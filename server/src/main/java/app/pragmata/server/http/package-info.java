/**
 * What every address shares: problems, who is acting, the description of the API, the web pages.
 */
@NullMarked
package app.pragmata.server.http;

import org.jspecify.annotations.NullMarked;
