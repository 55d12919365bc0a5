package app.pragmata.server.http;

import app.pragmata.core.Coded;
import java.util.Arrays;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.BeanDescription;
import tools.jackson.databind.DeserializationConfig;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.JacksonModule;
import tools.jackson.databind.JavaType;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.deser.Deserializers;
import tools.jackson.databind.exc.InvalidFormatException;
import tools.jackson.databind.module.SimpleModule;

/** Words of a vocabulary travel by their codes; an empty one is none. */
final class VocabularyJson {
  private VocabularyJson() {}

  static JacksonModule module() {
    return new SimpleModule("vocabulary") {
      private static final long serialVersionUID = 1L;

      @Override
      public void setupModule(SetupContext context) {
        addSerializer(Coded.class, new ByCode());
        super.setupModule(context);
        context.addDeserializers(new OfVocabularies());
      }
    };
  }

  private static final class ByCode extends ValueSerializer<Coded> {
    @Override
    public void serialize(Coded word, JsonGenerator out, SerializationContext context) {
      out.writeString(word.code());
    }
  }

  private static final class OfVocabularies extends Deserializers.Base {
    @Override
    public @Nullable ValueDeserializer<?> findEnumDeserializer(
        JavaType type, DeserializationConfig config, BeanDescription.Supplier description) {
      return Coded.class.isAssignableFrom(type.getRawClass())
          ? new FromCode(type.getRawClass())
          : null;
    }

    @Override
    public boolean hasDeserializerFor(DeserializationConfig config, Class<?> type) {
      return type.isEnum() && Coded.class.isAssignableFrom(type);
    }
  }

  private static final class FromCode extends ValueDeserializer<Object> {
    private final Class<?> vocabulary;

    FromCode(Class<?> vocabulary) {
      this.vocabulary = vocabulary;
    }

    @Override
    public @Nullable Object deserialize(JsonParser in, DeserializationContext context)
        throws JacksonException {
      String code = in.getValueAsString();
      if (code != null && code.isBlank()) {
        return null;
      }
      return Arrays.stream(vocabulary.getEnumConstants())
          .filter(word -> ((Coded) word).code().equals(code))
          .findFirst()
          .orElseThrow(
              () ->
                  InvalidFormatException.from(
                      in,
                      "It is one of: %s.".formatted(codes(vocabulary)),
                      String.valueOf(code),
                      vocabulary));
    }
  }

  /** All codes of a vocabulary, for whoever sent another. */
  static String codes(Class<?> vocabulary) {
    return Arrays.stream(Objects.requireNonNull(vocabulary.getEnumConstants()))
        .map(word -> ((Coded) word).code())
        .collect(Collectors.joining(", "));
  }
}
