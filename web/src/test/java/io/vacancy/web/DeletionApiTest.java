// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import static java.nio.charset.StandardCharsets.US_ASCII;
import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.web.HarbourServer.Reply;
import java.io.OutputStream;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.net.Socket;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The protocol, by a real client: what is asked, answered, refused and told. */
class DeletionApiTest {

    private HarbourServer office;

    @BeforeEach
    void opens() throws Exception {
        office = HarbourServer.on(Engine.H2);
    }

    @AfterEach
    void closes() throws Exception {
        office.close();
    }

    private Reply asked(int boat) throws Exception {
        Reply reply =
                office.post("/deletions", "{\"table\": \"boat\", \"keys\": [" + boat + "], \"because\": \"sold\"}");
        assertThat(reply.status()).as(reply.response().body()).isEqualTo(201);
        return reply;
    }

    /** What the question wants to be typed, or yes. */
    private static String wanted(Reply question) {
        JsonNode awaited = question.json().path("preview").path("question").path("awaited");
        return awaited.isTextual() ? awaited.asText() : "yes";
    }

    private static String answer(String text) {
        return "{\"text\": \"" + text + "\"}";
    }

    @ParameterizedTest
    @EnumSource(names = {"SQLITE", "H2", "POSTGRESQL", "MARIADB"})
    void isAskedShownAnsweredAndRestored(Engine engine) throws Exception {
        office.close();
        office = HarbourServer.on(engine);
        int boat = office.free();
        long boats = office.database.count("boat");
        Reply question = asked(boat);

        String address = question.header("Location");
        assertThat(address).startsWith("/office/api/deletions/");
        assertThat(question.header("ETag"))
                .isEqualTo('"'
                        + question.json().path("preview").path("fingerprint").asText()
                        + '"');
        assertThat(office.get(address).json().path("state").asText()).isEqualTo("open");
        assertThat(office.database.count("boat")).isEqualTo(boats);

        Reply done = office.post(address + "/answer", answer(wanted(question)));
        assertThat(done.status()).as(done.response().body()).isEqualTo(200);
        String receipt = done.json().path("receipt").asText();
        assertThat(done.json().path("because").asText()).isEqualTo("sold");
        assertThat(done.header("Content-Location")).isEqualTo("/office/api/receipts/" + receipt);
        assertThat(office.get(address).json().path("state").asText()).isEqualTo("done");
        assertThat(office.get("/receipts/" + receipt).json().path("receipt").asText())
                .isEqualTo(receipt);
        assertThat(office.database.count("boat")).isEqualTo(boats - 1);

        Reply back = office.post("/restores", "{\"receipt\": \"" + receipt + "\"}");
        assertThat(back.header("Location")).startsWith("/office/api/restores/");
        assertThat(office.post(back.header("Location") + "/answer", answer(wanted(back)))
                        .status())
                .isEqualTo(200);
        assertThat(office.database.count("boat")).isEqualTo(boats);
        Reply history = office.get("/history?table=boat&key=" + boat + "&limit=1");
        assertThat(history.json().path("entries")).hasSize(1);
        assertThat(office.get(history.json().path("next").asText())
                        .json()
                        .path("entries")
                        .size())
                .isEqualTo(1);
        assertThat(office.get("/archive?table=boat").status()).isEqualTo(200);
        Reply receipts = office.get("/receipts?table=boat&limit=1");
        assertThat(receipts.json().path("receipts").get(0).path("operation").asText())
                .isEqualTo("restore");
        assertThat(office.get(receipts.json().path("next").asText())
                        .json()
                        .path("receipts")
                        .get(0)
                        .path("receipt")
                        .asText())
                .isEqualTo(receipt);
    }

    @Test
    void rowsOfSeveralTablesAreOneQuestion() throws Exception {
        int boat = office.free();
        long fees = office.database.count("fee");
        long boats = office.database.count("boat");
        Reply question = office.post(
                "/deletions",
                "{\"table\": \"boat\", \"keys\": [" + boat + "], \"plus\": [{\"table\": \"fee\", \"keys\": [702]},"
                        + " {\"table\": \"mooring\", \"where\": {\"op\": \"=\", \"args\": [{\"property\": \"id\"}, 999]}}]}");
        assertThat(question.status()).as(question.response().body()).isEqualTo(201);
        assertThat(question.json()
                        .path("preview")
                        .path("question")
                        .path("title")
                        .asText())
                .endsWith(" and fee id 702 and 0 rows of mooring where id = 999?");
        Reply done = office.post(question.header("Location") + "/answer", answer(wanted(question)));
        assertThat(done.status()).as(done.response().body()).isEqualTo(200);
        assertThat(office.database.count("fee")).isEqualTo(fees - 1);
        assertThat(office.database.count("boat")).isEqualTo(boats - 1);
        // Restoring is open for boats, and for fees it is not.
        String receipt = done.json().path("receipt").asText();
        assertThat(office.get("/receipts/" + receipt).status()).isEqualTo(200);
        assertThat(office.post("/restores", "{\"receipt\": \"" + receipt + "\"}")
                        .status())
                .isEqualTo(403);

        for (String closed : List.of(
                "{\"table\": \"skipper\", \"keys\": [1]}",
                "{\"table\": \"logbook_entry\", \"keys\": [61]}",
                "{\"table\": \"fee\", \"where\": true}",
                "{\"table\": \"nowhere\", \"keys\": [1]}")) {
            Reply refused =
                    office.post("/deletions", "{\"table\": \"fee\", \"keys\": [703], \"plus\": [" + closed + "]}");
            assertThat(refused.status()).as(closed).isEqualTo(403);
        }
        for (String malformed : List.of(
                "[]",
                "{}",
                "\"fee\"",
                "[{\"table\": \"mooring\"}]",
                "[{\"table\": \"mooring\", \"keys\": []}]",
                "[{\"table\": \"mooring\", \"keys\": [1], \"because\": \"sold\"}]")) {
            Reply refused =
                    office.post("/deletions", "{\"table\": \"fee\", \"keys\": [703], \"plus\": " + malformed + "}");
            assertThat(refused.status()).as(malformed).isEqualTo(400);
        }
        assertThat(office.database.count("fee")).isEqualTo(fees - 1);
    }

    @Test
    void whatDoesNotGoAheadSaysWhy() throws Exception {
        int inspected = office.inspected();

        Reply nothing = office.post("/deletions", "{\"table\": \"boat\", \"keys\": [999999]}");
        assertThat(nothing.status()).isEqualTo(404);
        assertThat(nothing.header("Content-Type")).isEqualTo("application/problem+json");
        assertThat(nothing.json().path("type").asText()).isEqualTo("urn:vacancy:problem:nothing");
        assertThat(nothing.json().path("detail").asText()).contains("boat", "999999");

        Reply blocked = office.post("/deletions", "{\"table\": \"boat\", \"keys\": [" + inspected + "]}");
        assertThat(blocked.status()).isEqualTo(409);
        assertThat(blocked.json().path("blockers").get(0).path("relation").asText())
                .isEqualTo("inspection.boat_id");
        assertThat(blocked.json().path("blockers").get(0).path("reason").asText())
                .isEqualTo("inspections are kept");
        Reply skipping = office.post(
                "/deletions",
                "{\"table\": \"boat\", \"keys\": [" + inspected + ", " + office.free()
                        + "], \"on-blocked\": \"skip\"}");
        assertThat(skipping.json().path("preview").path("skipped").path("rows").asLong())
                .isEqualTo(1);

        int boat = office.free();
        Reply question = asked(boat);
        String address = question.header("Location");
        office.database.run("UPDATE boat SET name = 'Another' WHERE id = " + boat);
        assertThat(office.get(address).json().path("state").asText()).isEqualTo("changed");
        Reply changed = office.post(address + "/answer", answer(wanted(question)));
        assertThat(changed.status()).isEqualTo(412);
        Reply next = office.get(changed.header("Location"));
        assertThat(next.json().path("state").asText()).isEqualTo("open");
        assertThat(office.post(address + "/answer", answer(wanted(question))).status())
                .isEqualTo(412);
        Reply done = office.post(changed.header("Location") + "/answer", answer(wanted(next)));
        assertThat(done.status()).isEqualTo(200);
    }

    @Test
    void threeWrongTextsAndANoAreTheEnd() throws Exception {
        Reply question = asked(office.free());
        String address = question.header("Location");
        for (int left = 2; left >= 0; left--) {
            Reply wrong = office.post(address + "/answer", answer("perhaps"));
            assertThat(wrong.status()).isEqualTo(422);
            assertThat(wrong.json().path("remaining-attempts").asInt()).isEqualTo(left);
        }
        assertThat(office.post(address + "/answer", answer(wanted(question))).status())
                .isEqualTo(422);

        String other = asked(office.free()).header("Location");
        assertThat(office.send("DELETE", other, null).status()).isEqualTo(204);
        assertThat(office.send("DELETE", other, null).status()).isEqualTo(204);
        assertThat(office.post(other + "/answer", answer(wanted(question))).status())
                .isEqualTo(422);
        Reply history = office.get("/history?table=boat");
        assertThat(history.json().path("entries").findValuesAsText("ending")).containsOnly("declined");
    }

    @Test
    void othersDoNotFindIt() throws Exception {
        Reply question = asked(office.free());
        String address = question.header("Location");
        for (String[] who : new String[][] {{"X-User", "Jonas Berg"}, {"X-Harbour", "1"}}) {
            assertThat(office.send("GET", address, null, who).status()).isEqualTo(404);
            assertThat(office.send("DELETE", address, null, who).status()).isEqualTo(404);
            assertThat(office.send(
                                    "POST",
                                    address + "/answer",
                                    answer(wanted(question)),
                                    who[0],
                                    who[1],
                                    "Content-Type",
                                    "application/json")
                            .status())
                    .isEqualTo(404);
        }
        String id = address.substring(address.lastIndexOf('/') + 1);
        assertThat(office.get("/restores/" + id).status()).isEqualTo(404);
        assertThat(office.get("/deletions/" + id.substring(1) + "A").status()).isEqualTo(404);
        assertThat(office.get("/deletions/..%2f..").status()).isIn(400, 404);
        assertThat(office.get(address).status()).isEqualTo(200);
    }

    /** Only what a client may say is heard; the rest is refused and not passed over. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"table\": \"boat\", \"keys\": [1], \"preview\": {}}",
                "{\"table\": \"boat\", \"keys\": [1], \"question\": {\"strength\": \"none\"}}",
                "{\"table\": \"boat\", \"keys\": [1], \"fingerprint\": \"0\"}",
                "{\"table\": \"boat\", \"keys\": [1], \"by\": \"Jonas Berg\"}",
                "{\"table\": \"boat\", \"keys\": [1], \"rules\": {\"inspection.boat_id\": \"cascade\"}}",
                "{\"table\": \"boat\", \"keys\": [1], \"at-most\": 1000000}",
                "{\"table\": \"boat\", \"keys\": [1], \"expect\": 1}",
                "{\"table\": \"boat\", \"keys\": [1], \"without-confirmation\": \"I say so\"}",
                "{\"table\": \"boat\", \"keys\": [1], \"accept-unasked\": true}",
                "{\"table\": \"boat\", \"keys\": [1], \"archive\": false}",
                "{\"table\": \"boat\", \"keys\": [1], \"operation\": \"truncate\"}",
                "{\"table\": \"boat\", \"keys\": [1], \"include-marked\": true}",
                "{\"table\": \"boat\", \"every-row\": true}",
                "{\"table\": \"boat\", \"selection\": {\"every-row\": true}}",
                "{\"table\": \"boat\"}",
                "{\"table\": \"boat\", \"keys\": []}",
                "{\"table\": \"boat\", \"keys\": [null]}",
                "{\"table\": \"boat\", \"keys\": [\"1 OR 1=1\"]}",
                "{\"table\": \"boat\", \"keys\": [1], \"keys\": [2]}",
                "{\"table\": \"boat\", \"keys\": [1], \"where\": {}}",
                "{\"table\": \"mooring\", \"where\": \"1 = 1\"}",
                "{\"table\": \"mooring\", \"where\": {\"op\": \"sql\", \"args\": [\"1 = 1\"]}}",
                "{\"table\": [\"boat\"], \"keys\": [1]}",
                "{\"deletion\": \"old-moorings\", \"table\": \"boat\", \"parameters\": {\"before\": \"2024-01-01\"}}",
                "{\"deletion\": \"old-moorings\", \"parameters\": {\"before\": \"yesterday\"}}",
                "{\"deletion\": \"old-moorings\", \"parameters\": {}}",
                "{\"deletion\": \"old-moorings\", \"parameters\": {\"before\": \"2024-01-01\"}, \"mode\": \"blank\"}",
                "{\"table\": \"boat\", \"keys\": [1], \"mode\": \"purge\"}",
                "[]",
                "{",
                "{} {}",
                "\"boat\"",
                ""
            })
    void whatAClientMayNotSayIsRefused(String body) throws Exception {
        Reply reply = office.post("/deletions", body);

        assertThat(reply.status()).as(reply.response().body()).isEqualTo(400);
        assertThat(reply.json().path("detail").asText()).isNotBlank();
        assertThat(office.database.count("vacancy_question")).isZero();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"table\": \"skipper\", \"keys\": [1]}",
                "{\"table\": \"no_such_table\", \"keys\": [1]}",
                "{\"table\": \"vacancy_receipt\", \"keys\": [1]}",
                "{\"table\": \"boat\", \"keys\": [1], \"mode\": \"erase\"}",
                "{\"table\": \"boat\", \"keys\": [1], \"mode\": \"blank\"}",
                "{\"table\": \"logbook_entry\", \"keys\": [1]}",
                "{\"table\": \"boat\", \"where\": {\"op\": \"=\", \"args\": [{\"property\": \"id\"}, 1]}}",
                "{\"deletion\": \"no-such-deletion\", \"parameters\": {}}"
            })
    void whatIsClosedCannotBeToldFromWhatIsNotThere(String body) throws Exception {
        Reply reply = office.post("/deletions", body);

        assertThat(reply.status()).isEqualTo(403);
        assertThat(reply.json().path("detail").asText()).isEqualTo("This is not open to clients of this application.");
    }

    @Test
    void rowsAreBlankedWhereThatIsOpen() throws Exception {
        long entries = office.database.count("logbook_entry");
        long key = office.database.number("SELECT MIN(id) FROM logbook_entry");
        Reply question = office.post(
                "/deletions", "{\"table\": \"logbook_entry\", \"keys\": [" + key + "], \"mode\": \"blank\"}");
        assertThat(question.status()).as(question.response().body()).isEqualTo(201);
        assertThat(question.response().body()).contains("Blank logbook_entry ");
        assertThat(office.post(question.header("Location") + "/answer", answer("yes"))
                        .status())
                .isEqualTo(200);
        assertThat(office.database.count("logbook_entry")).isEqualTo(entries);
        assertThat(office.database.count("logbook_entry WHERE subject = '(removed)'"))
                .isEqualTo(1);
    }

    @Test
    void aPersonIsForgottenWhereThatIsOpen() throws Exception {
        long key = office.database.number("SELECT MIN(id) FROM logbook_entry");
        Reply question = office.post(
                "/deletions", "{\"table\": \"logbook_entry\", \"keys\": [" + key + "], \"mode\": \"forget\"}");
        assertThat(question.status()).as(question.response().body()).isEqualTo(201);
        assertThat(question.json().at("/preview/operation").asText()).isEqualTo("forget");
        Reply done = office.post(question.header("Location") + "/answer", answer("yes"));
        assertThat(done.status()).as(done.response().body()).isEqualTo(200);
        assertThat(office.database.count("logbook_entry WHERE subject = '(removed)'"))
                .isEqualTo(1);
        assertThat(office.post(
                                "/deletions",
                                "{\"table\": \"logbook_entry\", \"keys\": [" + key + ", 2], \"mode\": \"forget\"}")
                        .status())
                .isEqualTo(400);
        assertThat(office.post("/deletions", "{\"table\": \"boat\", \"keys\": [17], \"mode\": \"forget\"}")
                        .status())
                .isEqualTo(office.post("/deletions", "{\"table\": \"baot\", \"keys\": [17], \"mode\": \"forget\"}")
                        .status());
    }

    @Test
    void whatSomebodyElseHasToApproveWaitsForThat() throws Exception {
        long key = office.database.number("SELECT MIN(id) FROM logbook_entry");
        Reply question = office.post(
                "/deletions",
                "{\"table\": \"logbook_entry\", \"keys\": [" + key + ", " + (key + 1) + "], \"mode\": \"blank\"}");
        assertThat(question.json().at("/preview/approval").asText()).isEqualTo("logbook_entry, more than 1 row");
        String address = question.header("Location");

        Reply answered = office.post(address + "/answer", answer("yes"));

        assertThat(answered.status()).isEqualTo(202);
        assertThat(answered.json().path("type").asText()).isEqualTo("urn:vacancy:problem:waiting");
        assertThat(office.get(address).json().path("state").asText()).isEqualTo("waiting");
        assertThat(office.post(address + "/answer", answer("yes")).status()).isEqualTo(409);
        assertThat(office.database.count("logbook_entry WHERE subject = '(removed)'"))
                .isZero();
        assertThat(office.send("DELETE", address, null).status()).isEqualTo(204);
        assertThat(office.get(address).json().path("state").asText()).isEqualTo("declined");
    }

    @Test
    void answersAreATextAndNothingElse() throws Exception {
        Reply question = asked(office.free());
        String address = question.header("Location") + "/answer";
        for (String body : List.of(
                "{\"text\": \"yes\", \"fingerprint\": \"0\"}",
                "{\"text\": true}",
                "{\"text\": null}",
                "{}",
                "{\"answer\": \"yes\"}")) {
            assertThat(office.post(address, body).status()).as(body).isEqualTo(400);
        }
        assertThat(office.post(address, answer(wanted(question))).status()).isEqualTo(200);
    }

    @Test
    void whatIsNotHttpOfOursIsRefused() throws Exception {
        String body = "{\"table\": \"boat\", \"keys\": [1]}";
        assertThat(office.send("POST", "/deletions", body, "Content-Type", "text/plain")
                        .status())
                .isEqualTo(415);
        assertThat(office.send(
                                "POST",
                                "/deletions",
                                "table=boat&keys=1",
                                "Content-Type",
                                "application/x-www-form-urlencoded")
                        .status())
                .isEqualTo(415);
        assertThat(office.send("POST", "/deletions", body).status()).isEqualTo(415);
        String long_ = "{\"table\": \"boat\", \"keys\": [" + "1,".repeat(20_000) + "1]}";
        assertThat(office.post("/deletions", long_).status()).isEqualTo(413);
        String many = IntStream.rangeClosed(1, 101).mapToObj(String::valueOf).collect(Collectors.joining(","));
        assertThat(office.post("/deletions", "{\"table\": \"boat\", \"keys\": [" + many + "]}")
                        .status())
                .isEqualTo(400);
        Reply method = office.get("/deletions");
        assertThat(method.status()).isEqualTo(405);
        assertThat(method.header("Allow")).isEqualTo("POST");
        assertThat(office.get("/boats").status()).isEqualTo(404);
        assertThat(office.get("/history?table=boat&limit=100000").status()).isEqualTo(400);
        assertThat(office.send(
                                "POST",
                                "/deletions",
                                body,
                                "Content-Type",
                                "application/json",
                                "Sec-Fetch-Site",
                                "cross-site")
                        .status())
                .isEqualTo(403);
        Reply headers = office.get("/history?table=boat");
        assertThat(headers.header("Cache-Control")).isEqualTo("no-store");
        assertThat(headers.header("X-Content-Type-Options")).isEqualTo("nosniff");
    }

    @Test
    void theConnectionIsGoodForAnotherRequestAfterABodyThatWasRefusedUnread() throws Exception {
        String host = office.address("/").getAuthority();
        String refused = "POST /office/api/deletions HTTP/1.1\r\nHost: " + host
                + "\r\nContent-Type: text/plain\r\nContent-Length: 5\r\n\r\n";
        String next = "GET /office/api/boats HTTP/1.1\r\nHost: " + host + "\r\nConnection: close\r\n\r\n";
        try (Socket socket =
                new Socket(office.address("/").getHost(), office.address("/").getPort())) {
            OutputStream out = socket.getOutputStream();
            out.write(refused.getBytes(US_ASCII));
            out.flush();
            Thread.sleep(300);
            out.write("yes, ".getBytes(US_ASCII));
            out.write(next.getBytes(US_ASCII));
            out.flush();

            assertThat(new String(socket.getInputStream().readAllBytes(), UTF_8))
                    .contains("HTTP/1.1 415")
                    .contains("HTTP/1.1 404");
        }
    }

    @Test
    void aRecordIsDeletedAtItsOwnAddressAsItWasShown() throws Exception {
        int boat = office.free();
        long boats = office.database.count("boat");
        Reply required = office.send("DELETE", "/records/boat/" + boat, null);
        assertThat(required.status()).isEqualTo(428);
        String shown = required.header("ETag");
        JsonNode awaited = required.json().path("preview").path("question").path("awaited");
        String typed = awaited.isTextual() ? awaited.asText() : "yes";

        assertThat(office.send("DELETE", "/records/boat/" + boat, null, "If-Match", "*")
                        .status())
                .isEqualTo(428);
        assertThat(office.send("DELETE", "/records/boat/" + boat, null, "If-Match", "\"0\"", "Vacancy-Typed", typed)
                        .status())
                .isEqualTo(412);
        assertThat(office.send("DELETE", "/records/boat/" + boat, null, "If-Match", shown, "Vacancy-Typed", "no")
                        .status())
                .isEqualTo(422);
        assertThat(office.database.count("boat")).isEqualTo(boats);
        Reply done = office.send("DELETE", "/records/boat/" + boat, null, "If-Match", shown, "Vacancy-Typed", typed);
        assertThat(done.status()).isEqualTo(204);
        assertThat(office.get(done.header("Content-Location")).status()).isEqualTo(200);
        assertThat(office.database.count("boat")).isEqualTo(boats - 1);
        assertThat(office.send("DELETE", "/records/boat/" + boat, null).status())
                .isEqualTo(404);
        assertThat(office.send("DELETE", "/records/skipper/1", null).status()).isEqualTo(403);
    }

    @Test
    void namedDeletionsAndOpenedConditions() throws Exception {
        Reply named = office.post(
                "/deletions", "{\"deletion\": \"old-moorings\", \"parameters\": {\"before\": \"2100-01-01\"}}");
        assertThat(named.status()).as(named.response().body()).isEqualTo(201);
        Reply done = office.post(named.header("Location") + "/answer", answer(wanted(named)));
        assertThat(done.json().path("deletion").asText()).isEqualTo("old-moorings");
        Reply where = office.post(
                "/deletions",
                "{\"table\": \"mooring\", \"where\": {\"op\": \">\", \"args\": [{\"property\": \"id\"}, 0]}}");
        assertThat(where.status()).as(where.response().body()).isIn(201, 409);
    }

    /** Two nodes, fifty answers, one deletion. */
    @ParameterizedTest
    @EnumSource(names = {"H2", "POSTGRESQL", "MARIADB"})
    void fiftyAnswersAtOnceAreOneDeletion(Engine engine) throws Exception {
        office.close();
        office = HarbourServer.on(engine);
        try (HarbourServer other = HarbourServer.on(office.database)) {
            long boats = office.database.count("boat");
            Reply question = asked(office.free());
            String address = question.header("Location") + "/answer";
            ExecutorService threads = Executors.newFixedThreadPool(10);
            List<Future<Reply>> replies = new ArrayList<>();
            for (int i = 0; i < 50; i++) {
                HarbourServer node = i % 2 == 0 ? office : other;
                replies.add(threads.submit(() -> node.post(address, answer(wanted(question)))));
            }
            threads.shutdown();
            Set<String> receipts = new TreeSet<>();
            for (Future<Reply> reply : replies) {
                assertThat(reply.get().status())
                        .as(reply.get().response().body())
                        .isEqualTo(200);
                receipts.add(reply.get().json().path("receipt").asText());
            }
            assertThat(receipts).hasSize(1);
            assertThat(office.database.count("boat")).isEqualTo(boats - 1);
        }
    }

    @Test
    void survivesARestartAndExpires() throws Exception {
        Reply question = asked(office.free());
        String address = question.header("Location");
        office.close();
        Clock later = Clock.fixed(Instant.now().plus(Duration.ofHours(2)), ZoneOffset.UTC);
        try (HarbourServer tomorrow = HarbourServer.on(office.database, later, RateLimit.NONE)) {
            assertThat(tomorrow.post(address + "/answer", answer(wanted(question)))
                            .status())
                    .isEqualTo(410);
        }
        try (HarbourServer again = HarbourServer.on(office.database)) {
            assertThat(again.post(address + "/answer", answer(wanted(question))).status())
                    .isEqualTo(200);
        }
    }

    @Test
    void whoAsksTooOftenWaits() throws Exception {
        office.close();
        office = HarbourServer.on(office.database, Clock.systemUTC(), request -> Duration.ofSeconds(7));
        Reply reply = office.get("/history?table=boat");
        assertThat(reply.status()).isEqualTo(429);
        assertThat(reply.header("Retry-After")).isEqualTo("7");
    }

    @Test
    void whatIsOpenedHasToBeThere() {
        assertThatThrownBy(() -> Exposure.build(open -> open.table("boat"))).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Exposure.build(open -> open.table(" ", Exposed.DELETE)))
                .isInstanceOf(MisuseException.class);
    }

    @Test
    void successorsAndPurgesAreAskedAboutToo() throws Exception {
        long contracts = office.database.count("berth_contract");
        Reply question = office.post(
                "/replacements",
                "{\"table\": \"berth_contract\", \"keys\": [{\"contract_no\": 1, \"valid_from\": \"2026-01-01\"}],"
                        + " \"successor\": {\"from\": \"2026-11-01\", \"values\": {\"rent\": 790}}}");
        assertThat(question.status()).as(question.response().body()).isEqualTo(201);
        assertThat(office.post(question.header("Location") + "/answer", answer(wanted(question)))
                        .status())
                .isEqualTo(200);
        assertThat(office.database.count("berth_contract")).isEqualTo(contracts + 1);

        int fee = (int) office.database.number("SELECT MIN(id) FROM fee");
        Reply fees = office.post("/deletions", "{\"table\": \"fee\", \"keys\": [" + fee + "]}");
        String receipt = office.post(fees.header("Location") + "/answer", answer(wanted(fees)))
                .json()
                .path("receipt")
                .asText();
        Reply purge = office.post("/purges", "{\"receipt\": \"" + receipt + "\"}");
        assertThat(purge.status()).as(purge.response().body()).isEqualTo(201);
        assertThat(office.post(purge.header("Location") + "/answer", answer(wanted(purge)))
                        .status())
                .isEqualTo(200);
        assertThat(office.post("/restores", "{\"table\": \"fee\", \"keys\": [" + fee + "]}")
                        .status())
                .isEqualTo(403);
    }

    /** Whatever is sent, it is told what is wrong with it, and nothing is done. */
    @Test
    void noBodyIsAFailure() throws Exception {
        List<String> valid = List.of(
                "{\"table\": \"boat\", \"keys\": [12, 17], \"because\": \"sold\", \"on-blocked\": \"skip\"}",
                "{\"table\": \"mooring\", \"where\": {\"op\": \">\", \"args\": [{\"property\": \"id\"}, 500]}}",
                "{\"deletion\": \"old-moorings\", \"parameters\": {\"before\": \"2024-01-01\"}}",
                "{\"receipt\": \"01a219c1-f99e-780a-92d2-e34326d8abba\"}");
        List<String> bits = List.of(
                "\"",
                "{",
                "}",
                "[",
                "]",
                ",",
                ":",
                "null",
                "0",
                "-1",
                "1e999",
                "true",
                "\\u0000",
                "\uD83D\uDEA4",
                "'",
                "--",
                "%",
                "\n");
        List<String> collections = List.of("/deletions", "/restores", "/replacements", "/purges");
        Random random = new Random(7);
        long boats = office.database.count("boat");
        for (int round = 0; round < 400; round++) {
            StringBuilder body = new StringBuilder(valid.get(random.nextInt(valid.size())));
            for (int change = random.nextInt(4); change >= 0; change--) {
                int at = random.nextInt(body.length());
                String bit = bits.get(random.nextInt(bits.size()));
                switch (random.nextInt(3)) {
                    case 0 -> body.insert(at, bit);
                    case 1 -> body.replace(at, Math.min(body.length(), at + 1 + random.nextInt(5)), bit);
                    default -> body.delete(at, Math.min(body.length(), at + 1 + random.nextInt(5)));
                }
                body.append(body.isEmpty() ? "{" : "");
            }
            Reply reply = office.post(collections.get(random.nextInt(collections.size())), body.toString());
            assertThat(reply.status())
                    .as(body + " -> " + reply.response().body())
                    .isIn(201, 400, 403, 404, 409);
        }
        assertThat(office.database.count("boat")).isEqualTo(boats);
    }

    /** The connection is lost while the deletion's commit is on its way, and there is no other to find out by. */
    @Test
    void whatIsInDoubtIsToldWithWhereToLook() throws Exception {
        AtomicBoolean down = new AtomicBoolean();
        AtomicInteger commits = new AtomicInteger(Integer.MAX_VALUE / 2);
        DataSource lossy = lossy(office.database.source(), down, commits);
        try (HarbourServer node = HarbourServer.on(office.database, lossy)) {
            Reply question = asked(office.free());
            String address = question.header("Location");
            // The first commit is of the question; the second is the deletion's.
            commits.set(2);
            Reply doubt = node.post(address + "/answer", answer(wanted(question)));
            assertThat(doubt.status()).as(doubt.response().body()).isEqualTo(202);
            assertThat(doubt.json().path("detail").asText()).contains("not known");
            assertThat(doubt.header("Location")).startsWith("/office/api/receipts/");
            down.set(false);
            assertThat(node.get(doubt.header("Location")).status()).isEqualTo(404);
            assertThat(node.post(address + "/answer", answer(wanted(question))).status())
                    .isEqualTo(200);
        }
    }

    private static DataSource lossy(DataSource source, AtomicBoolean down, AtomicInteger commits) {
        return proxy(DataSource.class, (method, arguments) -> {
            if (down.get()) {
                throw new SQLException("the database is not there", "08001");
            }
            Object made = method.invoke(source, arguments);
            if (!(made instanceof Connection connection)) {
                return made;
            }
            return proxy(Connection.class, (called, values) -> {
                if (called.getName().equals("commit") && commits.decrementAndGet() == 0) {
                    connection.rollback();
                    down.set(true);
                    throw new SQLException("the connection was lost", "08006");
                }
                return called.invoke(connection, values);
            });
        });
    }

    private interface Call {
        Object of(Method method, Object[] arguments) throws Throwable;
    }

    private static <T> T proxy(Class<T> type, Call call) {
        return type.cast(
                Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, (self, method, arguments) -> {
                    try {
                        return call.of(method, arguments);
                    } catch (InvocationTargetException failed) {
                        throw failed.getCause();
                    }
                }));
    }

    /** Every other test holds what it sends and hears against the document. */
    @Test
    void theDocumentIsThere() throws Exception {
        JsonNode document = office.get("/openapi.json").json();
        assertThat(document.path("openapi").asText()).isEqualTo("3.1.0");
        assertThat(document.path("servers").get(0).path("url").asText()).isEqualTo("/office/api");
        assertThat(document.path("paths").size()).isGreaterThan(12);
    }
}
