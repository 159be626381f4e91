// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.Parameter.parameter;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.HarbourOffice;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.question.Question.Strength;
import io.vacancy.rules.ApprovalEntry;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.ValueKind;
import io.vacancy.web.internal.resource.ApiDocument;
import io.vacancy.web.page.PageRenderer;
import jakarta.servlet.Filter;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.sql.Connection;
import java.time.Clock;
import java.util.EnumSet;
import java.util.List;
import javax.sql.DataSource;
import org.eclipse.jetty.ee10.servlet.FilterHolder;
import org.eclipse.jetty.ee10.servlet.ServletContextHandler;
import org.eclipse.jetty.ee10.servlet.ServletHolder;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.jspecify.annotations.Nullable;

/** An application on the harbour office's database that opens some of it to clients. */
final class HarbourServer implements AutoCloseable {

    static final RuleBook RULES = RuleBook.build(book -> book.table("boat", t -> t.label("{name} ({registration})"))
            .relation("mooring.boat_id", Rule.cascade())
            .relation("fee.mooring_id", Rule.cascade())
            .relation("inspection.boat_id", Rule.block("inspections are kept"))
            .table(
                    "berth_contract",
                    t -> t.marker(Marker.versions(List.of("contract_no"), "valid_from", "valid_until")))
            .table(
                    "logbook_entry",
                    t -> t.blank("subject", "(removed)").person().forget(Rule.blank()))
            .approval(ApprovalEntry.ANY.table("logbook_entry").above(1))
            .question(2, Strength.COUNT)
            .deletion("old-moorings", d -> d.from("mooring")
                    .where(column("left_on").before(parameter("before")))
                    .parameter("before", ValueKind.DATE)));

    static final Exposure EXPOSURE =
            Exposure.build(open -> open.table("boat", Exposed.DELETE, Exposed.RESTORE, Exposed.ARCHIVE, Exposed.HISTORY)
                    .table("mooring", Exposed.DELETE, Exposed.RESTORE, Exposed.ARCHIVE, Exposed.HISTORY)
                    .table("berth_contract", Exposed.REPLACE)
                    .table("fee", Exposed.DELETE, Exposed.PURGE, Exposed.ARCHIVE)
                    .table("logbook_entry", Exposed.BLANK, Exposed.FORGET, Exposed.APPROVE)
                    .conditions("mooring")
                    .deletion("old-moorings"));

    private static final ThreadLocal<String> USER = ThreadLocal.withInitial(() -> "nobody");
    private static final ThreadLocal<Integer> HARBOUR = new ThreadLocal<>();
    private static final ObjectMapper MAPPER = new ObjectMapper();

    private static final String API = "/office/api";

    final Database database;
    private final ApiDocumentCheck document = new ApiDocumentCheck(ApiDocument.at(API));
    private final Server server = new Server();
    private final HttpClient client = HttpClient.newHttpClient();

    private HarbourServer(Database database) {
        this.database = database;
    }

    static HarbourServer on(Engine engine) throws Exception {
        Database database = engine.fresh();
        try (Connection connection = database.connect()) {
            HarbourOffice.build(connection);
        }
        vacancy(database.source(), Clock.systemUTC()).archive().setUp();
        return on(database);
    }

    /** Another node of the application, or the same after a restart. */
    static HarbourServer on(Database database) throws Exception {
        return on(database, Clock.systemUTC(), RateLimit.NONE);
    }

    static HarbourServer on(Database database, Clock clock, RateLimit limit) throws Exception {
        return on(database, database.source(), clock, limit, null);
    }

    static HarbourServer on(Database database, PageRenderer renderer) throws Exception {
        return on(database, database.source(), Clock.systemUTC(), RateLimit.NONE, renderer);
    }

    /** A node whose connections are not to be relied on. */
    static HarbourServer on(Database database, DataSource source) throws Exception {
        return on(database, source, Clock.systemUTC(), RateLimit.NONE, null);
    }

    private static HarbourServer on(
            Database database, DataSource source, Clock clock, RateLimit limit, @Nullable PageRenderer renderer)
            throws Exception {
        HarbourServer node = new HarbourServer(database);
        DeletionApi api = DeletionApi.of(vacancy(source, clock), EXPOSURE)
                .rateLimit(limit)
                .limits(20_000, 100);
        ServletContextHandler context = new ServletContextHandler("/office");
        context.addServlet(new ServletHolder(api), "/api/*");
        DeletionPages pages = DeletionPages.of(vacancy(source, clock), USER::get, EXPOSURE);
        pages = renderer == null ? pages : pages.renderer(renderer);
        context.addServlet(new ServletHolder(pages), "/pages/*");
        Filter user = (request, response, chain) -> {
            HttpServletRequest http = (HttpServletRequest) request;
            String name = http.getHeader("X-User");
            String harbour = http.getHeader("X-Harbour");
            USER.set(name == null ? "Mira Holm" : name);
            HARBOUR.set(harbour == null ? null : Integer.valueOf(harbour));
            chain.doFilter(request, response);
        };
        context.addFilter(new FilterHolder(user), "/*", EnumSet.of(jakarta.servlet.DispatcherType.REQUEST));
        node.server.setHandler(context);
        node.server.addConnector(new ServerConnector(node.server));
        node.server.start();
        return node;
    }

    private static Vacancy vacancy(DataSource source, Clock clock) {
        return Vacancy.on(JdbcStore.of(source))
                .rules(RULES)
                .actor(USER::get)
                .scope(() -> HARBOUR.get() == null ? Scope.everything() : harbour(HARBOUR.get()))
                .clock(clock)
                .open();
    }

    private static Scope harbour(int id) {
        return table -> table.has("harbour_id") ? column("harbour_id").equalTo(id) : null;
    }

    /** A boat that nothing blocks. */
    int free() {
        return (int) database.number(
                "SELECT MIN(id) FROM boat b WHERE NOT EXISTS (SELECT 1 FROM inspection i WHERE i.boat_id = b.id)");
    }

    /** A boat that its inspections block. */
    int inspected() {
        return (int) database.number("SELECT MIN(boat_id) FROM inspection");
    }

    /** A response, with its body as JSON where it is. */
    record Reply(int status, HttpResponse<String> response) {

        JsonNode json() {
            try {
                return MAPPER.readTree(response.body());
            } catch (IOException broken) {
                throw new AssertionError("not JSON: " + response.body(), broken);
            }
        }

        String header(String name) {
            return response.headers().firstValue(name).orElse("");
        }
    }

    Reply get(String path) throws Exception {
        return send("GET", path, null);
    }

    Reply post(String path, String json) throws Exception {
        return send("POST", path, json, "Content-Type", "application/json");
    }

    /** @param headers names and values in turn */
    Reply send(String method, String path, @Nullable String body, String... headers) throws Exception {
        HttpRequest.Builder request = HttpRequest.newBuilder(address(path))
                .method(method, body == null ? BodyPublishers.noBody() : BodyPublishers.ofString(body));
        if (headers.length > 0) {
            request.headers(headers);
        }
        HttpResponse<String> response = client.send(request.build(), BodyHandlers.ofString());
        String whole = response.uri().getRawPath();
        if (whole.startsWith(API + "/")) {
            document.holds(
                    method,
                    whole.substring(API.length()),
                    body,
                    response.statusCode(),
                    response.headers().firstValue("Content-Type").orElse(null),
                    response.body());
        }
        return new Reply(response.statusCode(), response);
    }

    URI address(String path) {
        String whole = path.startsWith("/office/") ? path : API + path;
        return URI.create("http://localhost:" + ((ServerConnector) server.getConnectors()[0]).getLocalPort() + whole);
    }

    @Override
    public void close() throws Exception {
        server.stop();
    }
}
