package app.pragmata.server.people;

import app.pragmata.server.records.Retention.KeptForAWhile;
import org.springframework.context.annotation.Bean;
import org.springframework.session.config.SessionRepositoryCustomizer;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.stereotype.Component;

/**
 * Sessions lie in the database, where two servers share them. That somebody is still here is noted
 * once a minute: a write at every request would make each page wait for the disk.
 */
@Component
class Sessions implements SessionRepositoryCustomizer<JdbcIndexedSessionRepository> {
  private static final String NOTE_ONCE_A_MINUTE =
      """
      update %TABLE_NAME% s
      set session_id = seen.session_id, last_access_time = seen.last_access_time,
          max_inactive_interval = seen.max_inactive_interval, expiry_time = seen.expiry_time,
          principal_name = seen.principal_name
      from (values (?::text, ?::bigint, ?::int, ?::bigint, ?::text))
          seen (session_id, last_access_time, max_inactive_interval, expiry_time, principal_name)
      where s.primary_id = ?
        and (s.session_id <> seen.session_id
             or s.principal_name is distinct from seen.principal_name
             or seen.last_access_time - s.last_access_time >= 60000)
      """;

  @Bean
  static KeptForAWhile sessionsThatEnded(JdbcIndexedSessionRepository repository) {
    return now -> repository.cleanUpExpiredSessions();
  }

  @Override
  public void customize(JdbcIndexedSessionRepository repository) {
    repository.setUpdateSessionQuery(NOTE_ONCE_A_MINUTE);
  }
}
