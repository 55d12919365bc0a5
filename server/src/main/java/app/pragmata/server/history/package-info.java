/** What happened to any record: who did what to it, when, from what to what and why. */
@org.jspecify.annotations.NullMarked
package app.pragmata.server.history;
