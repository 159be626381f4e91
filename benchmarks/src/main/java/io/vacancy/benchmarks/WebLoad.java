// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.web.DeletionApi;
import io.vacancy.web.Exposed;
import io.vacancy.web.Exposure;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.eclipse.jetty.ee10.servlet.ServletContextHandler;
import org.eclipse.jetty.ee10.servlet.ServletHolder;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;

/** People asking and answering over HTTP for a while: how long each step takes, and whether any of them fails. */
final class WebLoad {

    private static final int SECONDS = Integer.getInteger("seconds", 30);
    private static final int PEOPLE = Integer.getInteger("people", 8);
    private static final ObjectMapper MAPPER = new ObjectMapper();

    private final HttpClient client = HttpClient.newHttpClient();
    private final String base;
    private final AtomicInteger next = new AtomicInteger(1);
    private final List<Long> asking = Collections.synchronizedList(new ArrayList<>());
    private final List<Long> answering = Collections.synchronizedList(new ArrayList<>());

    private WebLoad(String base) {
        this.base = base;
    }

    static void run(Engine engine) throws Exception {
        Database database = engine.onDisk();
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, 10_000);
        }
        try (HikariDataSource pool = Pools.of(database, PEOPLE)) {
            Vacancy vacancy =
                    Vacancy.on(JdbcStore.of(pool)).actor(() -> "Mira Holm").open();
            vacancy.archive().setUp();
            Exposure exposure = Exposure.build(open -> open.table("boat", Exposed.DELETE, Exposed.ARCHIVE));
            Server server = new Server(0);
            ServletContextHandler context = new ServletContextHandler("/");
            context.addServlet(new ServletHolder(DeletionApi.of(vacancy, exposure)), "/api/*");
            server.setHandler(context);
            server.start();
            try {
                int port = ((ServerConnector) server.getConnectors()[0]).getLocalPort();
                new WebLoad("http://localhost:" + port).load(engine);
            } finally {
                server.stop();
            }
        }
    }

    private void load(Engine engine) throws Exception {
        long until = System.nanoTime() + SECONDS * 1_000_000_000L;
        ExecutorService people = Executors.newFixedThreadPool(PEOPLE);
        List<Future<?>> all = new ArrayList<>();
        for (int i = 0; i < PEOPLE; i++) {
            all.add(people.submit(() -> {
                while (System.nanoTime() < until) {
                    deletion(next.getAndIncrement());
                }
                return null;
            }));
        }
        people.shutdown();
        for (Future<?> each : all) {
            each.get();
        }
        System.gc();
        long heap = ManagementFactory.getMemoryMXBean().getHeapMemoryUsage().getUsed() >> 20;
        System.out.printf(
                "%s: %d people, %d s, %d deletions of a boat with 110 dependants, archived, no error; heap afterwards %d MB%n",
                engine, PEOPLE, SECONDS, answering.size(), heap);
        told("asking   ", asking);
        told("answering", answering);
    }

    private static void told(String what, List<Long> times) {
        Collections.sort(times);
        System.out.printf(
                "  %s  median %.1f ms, 95 of 100 within %.1f ms, 99 within %.1f ms, slowest %.1f ms%n",
                what, at(times, 0.5), at(times, 0.95), at(times, 0.99), at(times, 1));
    }

    private static double at(List<Long> times, double share) {
        return times.get((int) Math.min(times.size() - 1, Math.round(share * times.size()))) / 1e6;
    }

    private void deletion(int boat) throws IOException, InterruptedException {
        long start = System.nanoTime();
        HttpResponse<String> asked = post("/api/deletions", "{\"table\": \"boat\", \"keys\": [" + boat + "]}", 201);
        asking.add(System.nanoTime() - start);
        JsonNode awaited =
                MAPPER.readTree(asked.body()).path("preview").path("question").path("awaited");
        String typed = awaited.isTextual() ? awaited.asText() : "yes";
        String address = asked.headers().firstValue("Location").orElseThrow();
        start = System.nanoTime();
        post(address + "/answer", "{\"text\": \"" + typed + "\"}", 200);
        answering.add(System.nanoTime() - start);
    }

    private HttpResponse<String> post(String path, String json, int expected) throws IOException, InterruptedException {
        HttpResponse<String> reply = client.send(
                HttpRequest.newBuilder(URI.create(base + path))
                        .header("Content-Type", "application/json")
                        .POST(BodyPublishers.ofString(json))
                        .build(),
                BodyHandlers.ofString());
        if (reply.statusCode() != expected) {
            throw new IllegalStateException(path + " ended with " + reply.statusCode() + ": " + reply.body());
        }
        return reply;
    }
}
