package app.pragmata.server.http;

import java.io.IOException;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.EncodedResourceResolver;
import org.springframework.web.servlet.resource.PathResourceResolver;

/** Serves the web part. */
@Configuration(proxyBeanMethods = false)
class WebPages implements WebMvcConfigurer {
  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    // File names under assets carry a hash of their content, so a browser may keep them for good.
    registry
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/static/assets/")
        .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).immutable())
        .resourceChain(true)
        .addResolver(new EncodedResourceResolver());
    registry
        .addResourceHandler("/**")
        .addResourceLocations("classpath:/static/")
        .setCacheControl(CacheControl.noCache())
        .resourceChain(false)
        .addResolver(new PageOrFile());
  }

  /**
   * Every address that is neither a file nor of the API is a page of the one-page program; a
   * technician's day is the same page, which names what that needs.
   */
  private static final class PageOrFile extends PathResourceResolver {
    @Override
    protected @Nullable Resource getResource(String path, Resource location) throws IOException {
      Resource file = super.getResource(path, location);
      if (file != null || path.startsWith("api/") || path.startsWith("assets/")) {
        return file;
      }
      return new ClassPathResource(
          path.equals("pocket") ? "/static/pocket.html" : "/static/index.html");
    }
  }
}
