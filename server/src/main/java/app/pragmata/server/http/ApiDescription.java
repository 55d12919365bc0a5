package app.pragmata.server.http;

import app.pragmata.core.Coded;
import app.pragmata.server.records.Act;
import com.fasterxml.jackson.databind.JavaType;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.core.util.Json;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.servers.Server;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
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
   * Notes which fields of each record may be null; the library does not read JSpecify's type
   * annotations itself.
   */
  static final class NullableFields implements ModelConverter {
    private final Map<String, Set<String>> byRecord = new ConcurrentHashMap<>();

    @Override
    @SuppressWarnings("rawtypes") // the interface hands out raw schemas
    public @Nullable Schema resolve(
        AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
      JavaType javaType = Json.mapper().constructType(type.getType());
      if (javaType != null
          && javaType.isEnumType()
          && Coded.class.isAssignableFrom(javaType.getRawClass())) {
        return vocabulary(javaType.getRawClass());
      }
      if (javaType != null && javaType.getRawClass().isRecord()) {
        byRecord.put(
            javaType.getRawClass().getSimpleName(),
            Arrays.stream(javaType.getRawClass().getRecordComponents())
                .filter(
                    component -> component.getAnnotatedType().isAnnotationPresent(Nullable.class))
                .map(RecordComponent::getName)
                .collect(Collectors.toSet()));
      }
      return chain.hasNext() ? chain.next().resolve(type, context, chain) : null;
    }

    /** A word of a vocabulary is one of its codes. */
    private static Schema<String> vocabulary(Class<?> words) {
      var schema = new StringSchema();
      for (Object word : words.getEnumConstants()) {
        schema.addEnumItem(((Coded) word).code());
      }
      return schema;
    }

    Set<String> of(String record) {
      return byRecord.getOrDefault(record, Set.of());
    }
  }

  /** The library keeps its converters for the whole process, so a second program has the same. */
  private static final NullableFields NULLABLE_FIELDS = new NullableFields();

  @Bean
  NullableFields nullableFields() {
    return NULLABLE_FIELDS;
  }

  /** The same for whoever asks, from wherever: addresses are those of the server that answers. */
  @Bean
  OpenAPI description() {
    return new OpenAPI().servers(List.of(new Server().url("/")));
  }

  /**
   * Every field is there unless it may be null, so that the browser's types ask for no needless
   * checks.
   */
  @Bean
  OpenApiCustomizer nullability(NullableFields nullable) {
    return description -> {
      description.info(new Info().title("Pragmata").version("1"));
      schemas(description).forEach((name, schema) -> mark(schema, nullable.of(name)));
    };
  }

  @SuppressWarnings("rawtypes") // swagger's model hands out raw schemas
  private static Map<String, Schema> schemas(OpenAPI description) {
    return description.getComponents().getSchemas();
  }

  @SuppressWarnings({"rawtypes", "unchecked"})
  private static void mark(Schema schema, Set<String> nullable) {
    Map<String, Schema> properties = schema.getProperties();
    if (properties == null) {
      return;
    }
    schema.setRequired(
        properties.keySet().stream().filter(name -> !nullable.contains(name)).sorted().toList());
    properties.replaceAll(
        (name, property) -> nullable.contains(name) ? orNull(property) : property);
  }

  @SuppressWarnings({"rawtypes", "unchecked"})
  private static Schema orNull(Schema property) {
    if (property.get$ref() != null) {
      Schema nothing = new Schema();
      nothing.addType("null");
      Schema either = new Schema();
      either.setOneOf(List.of(property, nothing));
      return either;
    }
    property.addType("null");
    return property;
  }
}
