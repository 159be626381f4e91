// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.watch.JobState;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** The application as it is started, on the database that comes with it, by a browser without scripts. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class PagesTest {

    private static ConfigurableApplicationContext school;
    private static String base;

    @BeforeAll
    static void open() {
        school = new SpringApplicationBuilder(SailingSchool.class)
                .properties("server.port=0", "spring.main.banner-mode=off", "vacancy.jobs.poll-every=50ms")
                .run();
        base = "http://localhost:" + school.getEnvironment().getProperty("local.server.port");
    }

    @AfterAll
    static void close() {
        school.close();
    }

    private static HttpResponse<String> send(HttpRequest.Builder request, String path) throws Exception {
        return HttpClient.newBuilder()
                .followRedirects(HttpClient.Redirect.NORMAL)
                .build()
                .send(request.uri(URI.create(base + path)).build(), HttpResponse.BodyHandlers.ofString());
    }

    private static String get(String path) throws Exception {
        return send(HttpRequest.newBuilder(), path).body();
    }

    /** @param fields names and values in turn */
    private static HttpResponse<String> post(String path, String... fields) throws Exception {
        List<String> pairs = new ArrayList<>();
        for (int i = 0; i < fields.length; i += 2) {
            pairs.add(fields[i] + "=" + URLEncoder.encode(fields[i + 1], StandardCharsets.UTF_8));
        }
        return send(
                HttpRequest.newBuilder()
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(String.join("&", pairs))),
                path);
    }

    private static String field(String page, String name) {
        Matcher value =
                Pattern.compile("name=\"" + name + "\" value=\"([^\"]*)\"").matcher(page);
        assertThat(value.find()).as(name + " in " + page).isTrue();
        return value.group(1);
    }

    @Test
    @Order(1)
    void aCourseIsShownCancelledAndBroughtBack() throws Exception {
        HttpResponse<String> asked =
                post("/vacancy/pages/ask", "token", field(get("/"), "token"), "table", "course", "key", "2");
        assertThat(asked.body())
                .contains("Knots of 2026-05-11", "2 rows of BOOKING will be marked as deleted")
                .contains("Rows that are marked stay, and can be restored.")
                .doesNotContain("cannot be undone");
        assertThat(get("/")).doesNotContain("Cancelled");

        HttpResponse<String> done =
                post(asked.uri().getPath(), "token", field(asked.body(), "token"), "choice", "yes", "text", "yes");
        assertThat(get("/")).contains("<h2>Cancelled</h2>");
        HttpResponse<String> restoring =
                post("/vacancy/pages/ask", "token", field(get("/"), "token"), "restore", field(done.body(), "restore"));
        assertThat(restoring.body()).contains("will be restored").doesNotContain("undone");
        post(restoring.uri().getPath(), "token", field(restoring.body(), "token"), "choice", "yes", "text", "yes");
        assertThat(get("/")).doesNotContain("<h2>Cancelled</h2>");
    }

    @Test
    @Order(2)
    void whatIsPaidBlocks() throws Exception {
        HttpResponse<String> asked =
                post("/vacancy/pages/ask", "token", field(get("/"), "token"), "table", "course", "key", "3");
        assertThat(asked.statusCode()).isEqualTo(409);
        assertThat(asked.body()).contains("paid, so the money has to go back first");
    }

    @Test
    @Order(3)
    void theSeasonEndsByAJob() throws Exception {
        HttpResponse<String> shown = post("/season-end/ask", "before", "2026-06-20");
        assertThat(shown.body()).contains("Erase 6 rows of COURSE", "1 row that was selected as well stays");
        String fingerprint = field(shown.body(), "fingerprint");
        assertThat(post("/season-end", "before", "2026-06-20", "fingerprint", fingerprint, "typed", "no")
                        .body())
                .contains("nothing was changed");
        HttpResponse<String> job =
                post("/season-end", "before", "2026-06-20", "fingerprint", fingerprint, "typed", "yes");
        assertThat(job.uri().getPath()).isEqualTo("/jobs/season-end");
        assertThat(school.getBean(Jobs.class)
                        .await("season-end", Duration.ofSeconds(30))
                        .state())
                .isEqualTo(JobState.DONE);
        assertThat(get("/jobs/season-end")).contains("done, 21 rows");
        assertThat(send(HttpRequest.newBuilder(), "/jobs/none").statusCode()).isEqualTo(404);
    }
}
