// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.sun.net.httpserver.HttpServer;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jobs.notice.LogNotifier;
import io.vacancy.jobs.notice.WebhookNotifier;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.ReplicationLag;
import io.vacancy.jobs.watch.Job;
import io.vacancy.request.Request;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;

/** What others are told of jobs, and what is asked of them. */
class NoticeTest {

    /** A receiver of events that answers with these statuses in turn, and with 204 then. */
    private static final class Receiver implements AutoCloseable {
        final List<JsonNode> events = new CopyOnWriteArrayList<>();
        final List<String> types = new CopyOnWriteArrayList<>();
        private final HttpServer server;

        Receiver(Integer... statuses) throws IOException {
            Deque<Integer> answers = new ArrayDeque<>(List.of(statuses));
            server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
            server.createContext("/", exchange -> {
                byte[] body = exchange.getRequestBody().readAllBytes();
                events.add(new ObjectMapper().readTree(new String(body, StandardCharsets.UTF_8)));
                types.add(exchange.getRequestHeaders().getFirst("Content-Type"));
                exchange.sendResponseHeaders(answers.isEmpty() ? 204 : answers.remove(), -1);
                exchange.close();
            });
            server.start();
        }

        WebhookNotifier notifier() {
            URI address = URI.create("http://localhost:" + server.getAddress().getPort() + "/hook");
            return new WebhookNotifier(address, "/harbour/office", Duration.ofMillis(5));
        }

        @Override
        public void close() {
            server.stop(0);
        }
    }

    private static Job ended(Quay quay) throws Exception {
        Jobs jobs = quay.node(UnaryOperator.identity());
        return Quay.over(
                jobs,
                jobs.submit(JobOrder.of(Request.erase("boat")
                                        .where(column("id").atMost(3))
                                        .withoutConfirmation("a test"))
                                .named("season"))
                        .jobOrThrow()
                        .name());
    }

    @Test
    void aWebhookIsToldByAnEventUntilItAnswers() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 5);
                Receiver receiver = new Receiver(503, 429)) {
            receiver.notifier().ended(ended(quay));

            assertThat(receiver.events).hasSize(3);
            assertThat(receiver.types).containsOnly("application/cloudevents+json; charset=UTF-8");
            JsonNode event = receiver.events.get(2);
            assertThat(event).isEqualTo(receiver.events.get(0));
            assertThat(event.path("specversion").asText()).isEqualTo("1.0");
            assertThat(event.path("id").asText()).isEqualTo("season/1");
            assertThat(event.path("source").asText()).isEqualTo("/harbour/office");
            assertThat(event.path("type").asText()).isEqualTo("io.vacancy.job.done");
            assertThat(event.path("data").path("progress").path("rows").asInt()).isEqualTo(30);
            assertThat(event.path("data").path("state").asText()).isEqualTo("done");
        }
    }

    @Test
    void aWebhookThatRefusesIsNotAskedAgain() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 5);
                Receiver refuses = new Receiver(403);
                Receiver broken = new Receiver(500, 500, 500, 500, 500)) {
            Job job = ended(quay);
            assertThatThrownBy(() -> refuses.notifier().ended(job)).hasMessageContaining("403");
            assertThat(refuses.events).hasSize(1);
            assertThatThrownBy(() -> broken.notifier().ended(job)).hasMessageContaining("500");
            assertThat(broken.events).hasSize(5);
            assertThatCode(() -> new LogNotifier().ended(job)).doesNotThrowAnyException();
        }
    }

    @Test
    void serversWithoutReplicasDoNotLag() throws Exception {
        Database postgresql = Engine.POSTGRESQL.fresh();
        assertThat(ReplicationLag.postgresql(postgresql.source(), Duration.ofSeconds(1))
                        .reasonToWait())
                .isNull();
        postgresql.drop();
        Database mariadb = Engine.MARIADB.fresh();
        assertThat(ReplicationLag.mariadb(List.of(mariadb.source()), Duration.ofSeconds(1))
                        .reasonToWait())
                .isEqualTo("a server that should be a replica is none");
        mariadb.drop();
    }
}
