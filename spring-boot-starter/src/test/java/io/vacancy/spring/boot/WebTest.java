// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.web.DeletionPages;
import io.vacancy.web.Exposed;
import io.vacancy.web.Exposure;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.springframework.boot.autoconfigure.AutoConfigurations;
import org.springframework.boot.autoconfigure.web.servlet.DispatcherServletAutoConfiguration;
import org.springframework.boot.autoconfigure.web.servlet.ServletWebServerFactoryAutoConfiguration;
import org.springframework.boot.autoconfigure.web.servlet.WebMvcAutoConfiguration;
import org.springframework.boot.test.context.runner.WebApplicationContextRunner;
import org.springframework.boot.web.context.ServerPortInfoApplicationContextInitializer;
import org.springframework.boot.web.servlet.context.AnnotationConfigServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;

/** Pages and resources in an application's own web server. */
class WebTest {

    private static WebApplicationContextRunner office(Database database) {
        return new WebApplicationContextRunner(AnnotationConfigServletWebServerApplicationContext::new)
                .withInitializer(new ServerPortInfoApplicationContextInitializer())
                .withConfiguration(AutoConfigurations.of(
                        ServletWebServerFactoryAutoConfiguration.class,
                        DispatcherServletAutoConfiguration.class,
                        WebMvcAutoConfiguration.class,
                        VacancyAutoConfiguration.class))
                .withBean(DataSource.class, database::source)
                .withBean(CurrentActor.class, () -> () -> "Mira Holm")
                .withPropertyValues("server.port=0", "vacancy.own-tables=create", "vacancy.jobs.node=false");
    }

    private static Database harbour() {
        Database database = Engine.H2.fresh();
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20))",
                "INSERT INTO boat VALUES (1, 'Osprey'), (2, 'Heron')");
        return database;
    }

    private static HttpResponse<String> send(HttpRequest.Builder request, String address) throws Exception {
        return HttpClient.newBuilder()
                .followRedirects(HttpClient.Redirect.NORMAL)
                .build()
                .send(request.uri(URI.create(address)).build(), HttpResponse.BodyHandlers.ofString());
    }

    private static String address(ConfigurableApplicationContext context) {
        return "http://localhost:" + context.getEnvironment().getProperty("local.server.port");
    }

    @Test
    void nothingIsOpenUnlessTheApplicationOpensIt() {
        Database database = harbour();
        office(database).run(context -> {
            assertThat(context).doesNotHaveBean(DeletionPages.class);
            assertThat(send(HttpRequest.newBuilder().DELETE(), address(context) + "/vacancy/api/records/boat/1")
                            .statusCode())
                    .isEqualTo(404);
        });
        database.drop();
    }

    @Test
    void askedAndAnsweredInJsonAndOnPages() {
        Database database = harbour();
        office(database)
                .withBean(Exposure.class, () -> Exposure.build(open -> open.table("boat", Exposed.DELETE)))
                .withPropertyValues("vacancy.web.pages=/confirm")
                .run(context -> {
                    HttpResponse<String> asked =
                            send(HttpRequest.newBuilder().DELETE(), address(context) + "/vacancy/api/records/boat/1");
                    assertThat(asked.statusCode()).isEqualTo(428);
                    HttpResponse<String> done = send(
                            HttpRequest.newBuilder()
                                    .DELETE()
                                    .header(
                                            "If-Match",
                                            asked.headers().firstValue("ETag").orElseThrow())
                                    .header("Vacancy-Typed", "yes"),
                            address(context) + "/vacancy/api/records/boat/1");
                    assertThat(done.statusCode()).as(done.body()).isEqualTo(204);
                    assertThat(database.count("boat")).isEqualTo(1);
                    assertThat(context.getBean(Vacancy.class)
                                    .history()
                                    .page(1)
                                    .entries()
                                    .get(0)
                                    .origin())
                            .containsEntry("method", "DELETE")
                            .containsEntry("path", "/vacancy/api/records/boat/1");

                    String token = context.getBean(DeletionPages.class).token();
                    String form = "table=boat&key=2&token=" + URLEncoder.encode(token, StandardCharsets.UTF_8);
                    HttpResponse<String> page = send(
                            HttpRequest.newBuilder()
                                    .header("Content-Type", "application/x-www-form-urlencoded")
                                    .POST(HttpRequest.BodyPublishers.ofString(form)),
                            address(context) + "/confirm/ask");
                    assertThat(page.statusCode()).isEqualTo(200);
                    assertThat(page.body()).contains("Heron", "<form");
                    assertThat(database.count("boat")).isEqualTo(1);
                });
        database.drop();
    }
}
