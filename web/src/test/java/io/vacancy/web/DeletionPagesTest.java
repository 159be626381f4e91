// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.engines.Engine;
import io.vacancy.web.HarbourServer.Reply;
import io.vacancy.web.page.Page;
import io.vacancy.web.page.PageParts;
import io.vacancy.web.page.PageRenderer;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The pages, by a client without scripts: asked, answered, declined, blocked, forged. */
class DeletionPagesTest {

    private HarbourServer office;

    @BeforeEach
    void opens() throws Exception {
        office = HarbourServer.on(Engine.H2);
    }

    @AfterEach
    void closes() throws Exception {
        office.close();
    }

    /** @param fields names and values in turn */
    private Reply form(String path, String... fields) throws Exception {
        List<String> pairs = new ArrayList<>();
        for (int i = 0; i < fields.length; i += 2) {
            pairs.add(fields[i] + "=" + URLEncoder.encode(fields[i + 1], StandardCharsets.UTF_8));
        }
        return office.send(
                "POST", page(path), String.join("&", pairs), "Content-Type", "application/x-www-form-urlencoded");
    }

    private static String page(String path) {
        return path.startsWith("/office/") ? path : "/office/pages" + path;
    }

    private Reply get(String path) throws Exception {
        return office.send("GET", page(path), null, "Accept-Language", "en");
    }

    private static String field(Reply reply, String name) {
        Matcher value = Pattern.compile("name=\"" + name + "\" value=\"([^\"]*)\"")
                .matcher(reply.response().body());
        assertThat(value.find()).as(name + " in " + reply.response().body()).isTrue();
        return value.group(1);
    }

    private String token() throws Exception {
        return field(get("/named/old-moorings"), "token");
    }

    private Reply asked(int... boats) throws Exception {
        List<String> fields =
                new ArrayList<>(List.of("token", token(), "table", "boat", "back", "/office/boats?page=2"));
        for (int boat : boats) {
            fields.addAll(List.of("key", String.valueOf(boat)));
        }
        return form("/ask", fields.toArray(String[]::new));
    }

    private String awaited(Reply page) {
        Matcher typed = Pattern.compile("<label for=\"text\">[^<]*: ([^<]*)</label>")
                .matcher(page.response().body());
        return typed.find() ? typed.group(1).strip() : "yes";
    }

    @Test
    void isShownAnsweredAndRestored() throws Exception {
        int boat = office.free();
        long boats = office.database.count("boat");
        Reply question = asked(boat);
        assertThat(question.status()).isEqualTo(303);
        Reply page = get(question.header("Location"));
        assertThat(page.status()).isEqualTo(200);
        assertThat(page.response().body())
                .contains(
                        "1 row of boat will be deleted",
                        "through mooring.boat_id",
                        "registration",
                        "No, change nothing");
        assertThat(office.database.count("boat")).isEqualTo(boats);
        String address = question.header("Location").replaceAll("\\?.*", "");

        Reply answered = form(
                address,
                "token",
                field(page, "token"),
                "back",
                field(page, "back"),
                "choice",
                "yes",
                "text",
                awaited(page));
        assertThat(answered.status()).isEqualTo(303);
        Reply done = get(answered.header("Location"));
        assertThat(done.response().body())
                .contains("<h1>Deleted</h1>", "1 row of boat deleted", "href=\"/office/boats?page=2\"");
        assertThat(office.database.count("boat")).isEqualTo(boats - 1);
        // The back button shows what was done, and asking once more deletes nothing.
        assertThat(get(question.header("Location")).response().body()).contains("<h1>Deleted</h1>");

        Reply restoring = form("/ask", "token", token(), "restore", field(done, "restore"));
        Reply confirm = get(restoring.header("Location"));
        assertThat(confirm.response().body()).contains("will be restored").doesNotContain("undone");
        form(
                restoring.header("Location").replaceAll("\\?.*", ""),
                "token",
                field(confirm, "token"),
                "choice",
                "yes",
                "text",
                awaited(confirm));
        assertThat(office.database.count("boat")).isEqualTo(boats);
    }

    @Test
    void noIsNoAndLeadsBack() throws Exception {
        long boats = office.database.count("boat");
        Reply question = asked(office.free());
        String address = question.header("Location").replaceAll("\\?.*", "");
        Reply no = form(address, "token", token(), "choice", "no", "back", "/office/boats");
        assertThat(no.status()).isEqualTo(303);
        assertThat(no.header("Location")).isEqualTo("/office/boats");
        assertThat(get(address).response().body()).contains("Nothing was changed");
        form(address, "token", token(), "choice", "yes", "text", "yes");
        assertThat(office.database.count("boat")).isEqualTo(boats);
    }

    @Test
    void wrongTextsAreCountedAndShown() throws Exception {
        Reply question = asked(office.free());
        String address = question.header("Location").replaceAll("\\?.*", "");
        Reply wrong = form(address, "token", token(), "choice", "yes", "text", "perhaps");
        assertThat(get(wrong.header("Location")).response().body()).contains("2 attempts are left");
        form(address, "token", token(), "choice", "yes", "text", "perhaps");
        form(address, "token", token(), "choice", "yes", "text", "perhaps");
        assertThat(get(address).response().body()).contains("The question was declined");
    }

    @Test
    void whatBlocksIsShownWithAWayOut() throws Exception {
        Reply one = asked(office.inspected());
        assertThat(one.status()).isEqualTo(409);
        assertThat(one.response().body())
                .contains("This cannot be deleted yet", "inspections are kept", "through inspection.boat_id")
                .doesNotContain("Leave those out");
        Reply some = asked(office.inspected(), office.free());
        assertThat(some.response().body()).contains("Leave those out and look at the rest");
        Reply rest = form(
                "/ask",
                "token",
                token(),
                "table",
                "boat",
                "key",
                String.valueOf(office.inspected()),
                "key",
                String.valueOf(office.free()),
                "on-blocked",
                "skip");
        assertThat(rest.status()).isEqualTo(303);
        Reply nothing = asked(999_999);
        assertThat(nothing.status()).isEqualTo(404);
        assertThat(nothing.response().body()).contains("There is nothing to delete");
    }

    @Test
    void whatChangedIsAskedAnew() throws Exception {
        int boat = office.free();
        Reply question = asked(boat);
        String address = question.header("Location").replaceAll("\\?.*", "");
        office.database.run("UPDATE boat SET name = 'Another' WHERE id = " + boat);
        long boats = office.database.count("boat");
        long questions = office.database.count("vacancy_question");
        assertThat(get(address).response().body()).contains("This has changed", "Look again");
        assertThat(office.database.count("vacancy_question")).isEqualTo(questions);
        Reply changed = form(address, "token", token(), "choice", "again");
        assertThat(changed.status()).isEqualTo(303);
        assertThat(get(changed.header("Location")).response().body()).contains("Please look again", "Another");
        assertThat(office.database.count("boat")).isEqualTo(boats);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "1.AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA", "x", "99999999999.A"})
    void withoutATokenNothingIsAskedAndNothingDone(String token) throws Exception {
        Reply question = asked(office.free());
        String address = question.header("Location").replaceAll("\\?.*", "");
        long boats = office.database.count("boat");

        assertThat(form("/ask", "token", token, "table", "boat", "key", "1").status())
                .isEqualTo(403);
        assertThat(form(address, "token", token, "choice", "yes", "text", "yes").status())
                .isEqualTo(403);
        assertThat(form(address, "choice", "yes", "text", "yes").status()).isEqualTo(403);
        assertThat(get(address).response().body()).contains("Please confirm");
        assertThat(office.database.count("boat")).isEqualTo(boats);
    }

    @Test
    void aFormThatIsTooLargeIsToldSo() throws Exception {
        String[] many = new String[3_000];
        for (int i = 0; i < many.length; i += 2) {
            many[i] = "key" + i;
            many[i + 1] = String.valueOf(i);
        }
        Reply reply = form("/ask", many);
        assertThat(reply.status()).isEqualTo(413);
        assertThat(reply.response().body()).contains("Tick fewer rows");
    }

    @Test
    void aTokenIsOfOnePerson() throws Exception {
        String token = token();
        Reply other = office.send(
                "POST",
                page("/ask"),
                "table=boat&key=" + office.free() + "&token=" + token,
                "Content-Type",
                "application/x-www-form-urlencoded",
                "X-User",
                "Jonas Berg");
        assertThat(other.status()).isEqualTo(403);
    }

    @Test
    void nothingIsDeletedByALinkAndNothingLeadsAway() throws Exception {
        int boat = office.free();
        assertThat(get("/ask?table=boat&key=" + boat + "&token=" + token()).status())
                .isEqualTo(404);
        assertThat(form("/ask", "token", token(), "table", "skipper", "key", "1")
                        .status())
                .isEqualTo(403);
        for (String back :
                List.of("https://elsewhere.example/", "//elsewhere.example/", "/\\elsewhere", "javascript:alert(1)")) {
            Reply question = form("/ask", "token", token(), "table", "boat", "key", String.valueOf(boat), "back", back);
            assertThat(question.header("Location")).endsWith("?back=%2Foffice%2Fpages%2F");
        }
        Reply page = get("/named/old-moorings");
        assertThat(page.header("Content-Security-Policy"))
                .contains("default-src 'none'")
                .doesNotContain("unsafe");
        assertThat(page.response().body()).doesNotContain("<script", "style=");
    }

    @Test
    void valuesAreEscaped() throws Exception {
        int boat = office.free();
        office.database.run("UPDATE boat SET name = '<b onclick=\"x()\">&''' WHERE id = " + boat);
        Reply page = get(asked(boat).header("Location"));
        assertThat(page.response().body()).contains("&lt;b onclick=").doesNotContain("<b onclick");
    }

    @Test
    void namedDeletionsHaveAFormForTheirValuesAndPagesSpeakGerman() throws Exception {
        Reply page = get("/named/old-moorings");
        assertThat(page.response().body()).contains("name=\"parameter.before\" type=\"date\"");
        Reply question = form(
                "/ask", "token", field(page, "token"), "deletion", "old-moorings", "parameter.before", "2100-01-01");
        assertThat(question.status()).isEqualTo(303);
        Reply german = office.send("GET", question.header("Location"), null, "Accept-Language", "de-CH, en;q=0.5");
        assertThat(german.header("Content-Language")).isEqualTo("de");
        assertThat(german.response().body()).contains("Bitte bestätigen", "<html lang=\"de\">");
        assertThat(get("/named/no-such").status()).isEqualTo(404);
        assertThat(get("/assets/pages.js").header("Content-Type")).startsWith("text/javascript");
        assertThat(get("/assets/other.js").status()).isEqualTo(404);
        assertThat(get("/assets/pages.css").header("Content-Type")).startsWith("text/css");
        assertThat(get("/assets/..%2Fpages.css").status()).isIn(400, 404);
    }

    @Test
    void theRowsOfALargeOneCanBeLookedAt() throws Exception {
        office.database.run("INSERT INTO mooring SELECT 10000 + x, 7, 11, 102, DATE '2020-01-01', DATE '2020-02-01'"
                + " FROM SYSTEM_RANGE(1, 1234) AS r(x)");
        // An earlier receipt, by which a thousand rows took twenty seconds.
        office.database.run(
                "INSERT INTO vacancy_receipt (id, table_name, mode, actor, made_at, parts)"
                        + " VALUES ('01a20a61-8016-75b5-9588-bb057008bb20', 'mooring', 'erase', 'Mira Holm',"
                        + " '2026-05-01T12:00:00Z', 1)",
                "INSERT INTO vacancy_part (receipt_no, part, made_at, content, rows_affected, took_ms)"
                        + " SELECT receipt_no, 1, made_at, '{}', 1000, 20000 FROM vacancy_receipt");
        Reply question = form("/ask", "token", token(), "deletion", "old-moorings", "parameter.before", "2100-01-01");
        String address = question.header("Location").replaceAll("\\?.*", "");
        assertThat(get(address).response().body())
                .contains("Look at the rows", "1,238 rows of mooring will be deleted", "It takes about 2");
        Reply rows = get(address + "/rows");
        assertThat(rows.response().body()).contains("500 of 1,238 rows", "arrived_on", "2020-02-01");
        assertThat(office.send("GET", page(address + "/rows"), null, "X-User", "Jonas Berg")
                        .status())
                .isEqualTo(404);
    }

    /** An application puts the parts where it wants them. */
    @Test
    void partsStandInPagesOfAnApplicationsOwn() throws Exception {
        PageRenderer own = (page, out) -> {
            out.append("<!DOCTYPE html><html lang=\"en\"><title>x</title><body class=\"ours\">");
            out.append("<input name=\"token\" value=\"" + page.frame().token() + "\">");
            if (page instanceof Page.Confirm confirm) {
                out.append(PageParts.effects(confirm.frame(), confirm.effects()));
                for (Page.ShownRow row : confirm.records()) {
                    out.append(PageParts.record(row));
                }
                out.append(PageParts.answer(confirm));
            } else if (page instanceof Page.Stopped stopped) {
                out.append(PageParts.blockers(stopped.frame(), stopped.blockers()));
            }
        };
        try (HarbourServer ours = HarbourServer.on(office.database, own)) {
            String asking =
                    "token=" + field(ours.send("GET", page("/named/old-moorings"), null), "token") + "&table=boat&key=";
            Reply question = ours.send(
                    "POST", page("/ask"), asking + office.free(), "Content-Type", "application/x-www-form-urlencoded");
            Reply shown = ours.send("GET", question.header("Location"), null);
            assertThat(shown.response().body())
                    .contains("class=\"ours\"", "will be deleted", "registration", "No, change nothing");
            Reply blocked = ours.send(
                    "POST",
                    page("/ask"),
                    asking + office.inspected(),
                    "Content-Type",
                    "application/x-www-form-urlencoded");
            assertThat(blocked.response().body()).contains("class=\"ours\"", "inspections are kept");
        }
    }

    private Reply as(String user, String path) throws Exception {
        return office.send("GET", page(path), null, "X-User", user, "Accept-Language", "en");
    }

    private Reply as(String user, String path, String form) throws Exception {
        return office.send(
                "POST", page(path), form, "Content-Type", "application/x-www-form-urlencoded", "X-User", user);
    }

    @Test
    void anotherPersonLooksAtItAndApprovesOrDeclines() throws Exception {
        long key = office.database.number("SELECT MIN(id) FROM logbook_entry");
        String asking = "token=" + token() + "&table=logbook_entry&mode=blank&because=asked+to&key=" + key + "&key=";
        for (String choice : List.of("no", "yes")) {
            Reply question = as("Mira Holm", "/ask", asking + (key + 1));
            Reply shown = get(question.header("Location"));
            assertThat(shown.response().body())
                    .contains("somebody else has to approve it (logbook_entry, more than 1 row)", "can be restored");
            String address = question.header("Location").replaceAll("\\?.*", "");
            Reply answered = form(address, "token", field(shown, "token"), "choice", "yes");
            assertThat(get(answered.header("Location")).response().body()).contains("Waiting for an approval");
            assertThat(get("/waiting").response().body()).contains("Nothing waits for your approval.");
            String id = address.substring(address.lastIndexOf('/') + 1);
            assertThat(get("/waiting/" + id).status()).isEqualTo(404);

            Reply list = as("Tavi Orn", "/waiting");
            assertThat(list.response().body())
                    .contains("Blank 2 rows of logbook_entry", "Asked for by Mira Holm", "/waiting/" + id);
            Reply deciding = as("Tavi Orn", "/waiting/" + id);
            assertThat(deciding.response().body())
                    .contains("because: asked to", "2 rows of logbook_entry will stay and be blanked");
            assertThat(as("Tavi Orn", "/waiting/" + id, "choice=yes").status()).isEqualTo(403);
            Reply decided = as("Tavi Orn", "/waiting/" + id, "token=" + field(deciding, "token") + "&choice=" + choice);
            if (choice.equals("yes")) {
                assertThat(decided.response().body()).contains("<h1>Blanked</h1>", "Mira Holm");
            } else {
                assertThat(decided.status()).isEqualTo(303);
                assertThat(office.database.count("logbook_entry WHERE subject = '(removed)'"))
                        .isZero();
            }
            assertThat(as("Tavi Orn", "/waiting/" + id).status()).isEqualTo(404);
        }
        assertThat(office.database.count("logbook_entry WHERE subject = '(removed)'"))
                .isEqualTo(2);
    }
}
