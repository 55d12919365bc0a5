package app.pragmata.server.http;

import app.pragmata.core.Coded;
import java.util.Arrays;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.convert.converter.Converter;
import org.springframework.core.convert.converter.ConverterFactory;
import org.springframework.format.FormatterRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Words of a vocabulary stand in addresses by their codes, as they do in bodies. */
@Configuration(proxyBeanMethods = false)
class VocabularyAddresses implements WebMvcConfigurer {
  @Override
  public void addFormatters(FormatterRegistry registry) {
    registry.addConverterFactory(new ByCode());
  }

  private static final class ByCode implements ConverterFactory<String, Coded> {
    @Override
    public <T extends Coded> Converter<String, @Nullable T> getConverter(Class<T> vocabulary) {
      return code ->
          code.isEmpty()
              ? null
              : Arrays.stream(Objects.requireNonNull(vocabulary.getEnumConstants()))
                  .filter(word -> word.code().equals(code))
                  .findFirst()
                  .orElseThrow(() -> new IllegalArgumentException(code));
    }
  }
}
