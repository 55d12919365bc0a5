package app.pragmata.server.http;

import app.pragmata.server.people.Act;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** How the API describes itself; docs/openapi.json is this description, kept in step by a test. */
@Configuration(proxyBeanMethods = false)
class ApiDescription {
  static {
    SpringDocUtils.getConfig().addRequestWrapperToIgnore(Act.class);
  }

  /**
   * Every field is there unless it may be null, so that the browser's types ask for no needless
   * checks.
   */
  @Bean
  OpenApiCustomizer everyFieldIsThere() {
    return description -> {
      description.info(new Info().title("Pragmata").version("1"));
      description.setServers(null);
      schemas(description).values().forEach(ApiDescription::requireAllProperties);
    };
  }

  @SuppressWarnings("rawtypes") // swagger's model hands out raw schemas
  private static Map<String, Schema> schemas(OpenAPI description) {
    return description.getComponents().getSchemas();
  }

  @SuppressWarnings({"rawtypes", "unchecked"})
  private static void requireAllProperties(Schema schema) {
    Map<String, Schema> properties = schema.getProperties();
    if (properties != null) {
      schema.setRequired(new ArrayList<>(List.copyOf(properties.keySet())));
    }
  }
}
