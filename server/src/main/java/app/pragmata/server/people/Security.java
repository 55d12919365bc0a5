package app.pragmata.server.people;

import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.config.Customizer;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.CsrfConfigurer;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.HttpStatusEntryPoint;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;

/** Who may reach which address. What is not named here is denied. */
@Configuration(proxyBeanMethods = false)
class Security {
  private static final String[] DESK = {"OFFICE", "OWNER"};
  private static final String[] DESK_AND_BOOKS = {"OFFICE", "OWNER", "BOOKKEEPER"};

  @Bean
  SecurityFilterChain rules(HttpSecurity http, SecurityContextRepository contexts)
      throws Exception {
    return http.securityContext(context -> context.securityContextRepository(contexts))
        .csrf(CsrfConfigurer::spa)
        .exceptionHandling(
            handling ->
                handling.authenticationEntryPoint(
                    new HttpStatusEntryPoint(HttpStatus.UNAUTHORIZED)))
        .headers(
            headers ->
                headers
                    .contentSecurityPolicy(
                        policy ->
                            policy.policyDirectives(
                                // Reading codes from the camera is compiled ahead (WebAssembly).
                                "default-src 'self'; script-src 'self' 'wasm-unsafe-eval';"
                                    + " style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:;"
                                    + " frame-ancestors 'none'; form-action 'self'; base-uri 'none'"))
                    // A customer's link is all that opens a quote: no address goes on to anybody.
                    .referrerPolicy(policy -> policy.policy(ReferrerPolicy.NO_REFERRER)))
        .requestCache(cache -> cache.disable())
        .logout(logout -> logout.disable())
        .httpBasic(basic -> basic.disable())
        .anonymous(Customizer.withDefaults())
        .authorizeHttpRequests(
            requests ->
                requests
                    .requestMatchers(
                        "/api/session",
                        "/api/sign-in",
                        "/api/founding",
                        "/api/calendars/*",
                        "/api/job-pages/**",
                        "/api/offers/**",
                        "/api/password-links/**")
                    .permitAll()
                    .requestMatchers(
                        "/api/sign-out",
                        "/api/live",
                        "/api/description",
                        "/api/password",
                        "/api/sessions",
                        "/api/sessions/*")
                    .authenticated()
                    .requestMatchers("/api/pocket/**")
                    .hasRole("TECHNICIAN")
                    .requestMatchers(
                        HttpMethod.POST, "/api/receipts", "/api/receipts/*/allocations/**")
                    .hasAnyRole(DESK_AND_BOOKS)
                    .requestMatchers("/api/to-dos/**")
                    .hasAnyRole(DESK_AND_BOOKS)
                    .requestMatchers(HttpMethod.GET, "/api/**")
                    .hasAnyRole(DESK_AND_BOOKS)
                    .requestMatchers("/api/**")
                    .hasAnyRole(DESK)
                    .requestMatchers(HttpMethod.GET, "/**")
                    .permitAll()
                    .requestMatchers("/error")
                    .permitAll()
                    .anyRequest()
                    .denyAll())
        .build();
  }

  @Bean
  PasswordEncoder passwordEncoder() {
    return new BCryptPasswordEncoder();
  }
}
