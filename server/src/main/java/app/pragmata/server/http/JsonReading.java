package app.pragmata.server.http;

import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.Nulls;
import java.util.List;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** How requests are read from JSON, beyond what application.yaml sets. */
@Configuration(proxyBeanMethods = false)
class JsonReading {
  /** A list that is left out is empty; one that holds nothing at a place cannot be read. */
  @Bean
  JsonMapperBuilderCustomizer listsAreNeverNull() {
    return builder ->
        builder.withConfigOverride(
            List.class,
            lists -> lists.setNullHandling(JsonSetter.Value.construct(Nulls.AS_EMPTY, Nulls.FAIL)));
  }

  @Bean
  JsonMapperBuilderCustomizer vocabulariesTravelByCode() {
    return builder -> builder.addModule(VocabularyJson.module());
  }
}
