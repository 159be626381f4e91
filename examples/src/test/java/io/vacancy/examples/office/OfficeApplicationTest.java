// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpClient.Redirect;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** From the list to the restored boat, and with fewer rights. */
class OfficeApplicationTest {

    @TempDir
    Path folder;

    private Server server;
    private String cookie = "visitor=MIRA";

    private final HttpClient client =
            HttpClient.newBuilder().followRedirects(Redirect.NORMAL).build();

    @BeforeEach
    void opens() throws Exception {
        server = OfficeApplication.started(folder.resolve("office.db"), 0);
    }

    @AfterEach
    void closes() throws Exception {
        server.stop();
    }

    private HttpRequest.Builder at(String path) {
        int port = ((ServerConnector) server.getConnectors()[0]).getLocalPort();
        return HttpRequest.newBuilder(URI.create("http://localhost:" + port + path))
                .header("Cookie", cookie);
    }

    private HttpResponse<String> get(String path) throws Exception {
        return client.send(at(path).build(), BodyHandlers.ofString());
    }

    private HttpResponse<String> form(String path, String... fields) throws Exception {
        List<String> pairs = new ArrayList<>();
        for (int i = 0; i < fields.length; i += 2) {
            pairs.add(fields[i] + "=" + URLEncoder.encode(fields[i + 1], StandardCharsets.UTF_8));
        }
        return client.send(
                at(path).header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(BodyPublishers.ofString(String.join("&", pairs)))
                        .build(),
                BodyHandlers.ofString());
    }

    private static String found(HttpResponse<String> page, String pattern) {
        Matcher matcher = Pattern.compile(pattern).matcher(page.body());
        assertThat(matcher.find()).as(pattern + " in " + page.body()).isTrue();
        return matcher.group(1);
    }

    private static String token(HttpResponse<String> page) {
        return found(page, "name=\"token\" value=\"([^\"]*)\"");
    }

    @Test
    void aBoatIsDeletedAndRestored() throws Exception {
        HttpResponse<String> list = get("/boats?search=Teal");
        assertThat(list.body()).contains("Teal", "HV-121").doesNotContain("Osprey");

        HttpResponse<String> asked = form(
                "/confirm/ask", "token", token(list), "table", "boat", "key", "12", "mode", "erase", "back", "/boats");
        assertThat(asked.body()).contains("Please confirm", "Erase boat Teal (HV-121)?");
        HttpResponse<String> done = form(
                found(asked, "action=\"([^\"]*)\" class=\"yes\""),
                "token",
                token(asked),
                "choice",
                "yes",
                "back",
                "/boats");
        assertThat(done.body()).contains("<h1>Deleted</h1>");
        assertThat(get("/boats").body()).doesNotContain("Teal");
        HttpResponse<String> archive = get("/archive");

        HttpResponse<String> back = form(
                "/confirm/ask",
                "token",
                token(archive),
                "restore",
                found(archive, "name=\"restore\" value=\"([^\"]*)\""));
        form(found(back, "action=\"([^\"]*)\" class=\"yes\""), "token", token(back), "choice", "yes");
        assertThat(get("/boats").body()).contains("Teal");
        assertThat(get("/history").body()).contains("Mira Holm", "erase boat", "restore boat");
    }

    @Test
    void aBoatThatHasLeftIsShownOnRequestAndComesBack() throws Exception {
        HttpResponse<String> list = get("/boats");
        HttpResponse<String> asked =
                form("/confirm/ask", "token", token(list), "table", "boat", "key", "12", "mode", "soft-delete");
        form(found(asked, "action=\"([^\"]*)\" class=\"yes\""), "token", token(asked), "choice", "yes");
        assertThat(get("/boats").body()).doesNotContain("Teal");
        assertThat(get("/boats?left=on").body()).contains("Teal", "left");

        HttpResponse<String> back =
                form("/confirm/ask", "token", token(list), "table", "boat", "key", "12", "operation", "restore");
        form(found(back, "action=\"([^\"]*)\" class=\"yes\""), "token", token(back), "choice", "yes");
        assertThat(get("/boats").body()).contains("Teal");
    }

    @Test
    void whoMayOnlyLookIsRefusedAndSeesOneHarbour() throws Exception {
        HttpResponse<String> signedIn = HttpClient.newHttpClient()
                .send(
                        at("/sign-in")
                                .header("Content-Type", "application/x-www-form-urlencoded")
                                .POST(BodyPublishers.ofString("visitor=TILDA"))
                                .build(),
                        BodyHandlers.ofString());
        cookie = signedIn.headers().firstValue("Set-Cookie").orElseThrow().split(";", 2)[0];
        HttpResponse<String> list = get("/boats");
        HttpResponse<String> refused =
                form("/confirm/ask", "token", token(list), "table", "boat", "key", "12", "mode", "erase");
        assertThat(refused.statusCode()).isEqualTo(403);
        assertThat(refused.body()).contains("Tilda Voss may not erase rows of boat.");
        assertThat(list.body()).contains("may only look", "Osprey").doesNotContain("Heron");
    }
}
