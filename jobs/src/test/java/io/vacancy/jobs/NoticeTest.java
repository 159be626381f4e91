// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.sun.net.httpserver.HttpServer;
import io.micrometer.core.instrument.simple.SimpleMeterRegistry;
import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.meters.JobMeters;
import io.vacancy.jobs.notice.EventPost;
import io.vacancy.jobs.notice.LogNotifier;
import io.vacancy.jobs.notice.WebhookNotifier;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.ReplicationLag;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
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

        URI address() {
            return URI.create("http://localhost:" + server.getAddress().getPort() + "/hook");
        }

        WebhookNotifier notifier() {
            return new WebhookNotifier(address(), "/harbour/office", Duration.ofMillis(5));
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
    void theOutboxIsPassedOnAgainAndAgain() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 5);
                Receiver receiver = new Receiver(204, 403)) {
            RuleBook rules = RuleBook.build(book -> book.outbox("/harbour/office")
                    .relation("mooring.boat_id", Rule.cascade())
                    .relation("reading.mooring_id", Rule.cascade()));
            Vacancy vacancy = quay.vacancy(rules);
            for (int boat = 1; boat <= 3; boat++) {
                vacancy.execute(Request.erase("boat").key(boat).withoutConfirmation("a test"))
                        .receiptOrThrow();
            }
            JobOrder order = JobOrder.of(Upkeep.PASS_ON);

            // A node that passes nothing on leaves it to another.
            Jobs silent = quay.jobs(vacancy, UnaryOperator.identity());
            silent.start();
            String name = silent.submit(order).jobOrThrow().name();
            Quay.until(() -> silent.find(name).orElseThrow().state() == JobState.WAITING);
            assertThat(silent.find(name).orElseThrow().message()).contains("passes no events on");
            assertThat(silent.health().findings()).singleElement().asString().contains("passes no events on");
            silent.cancel(name);
            silent.close();

            EventPost post = new EventPost(receiver.address(), Duration.ofMillis(5));
            Jobs jobs = quay.jobs(vacancy, builder -> builder.events(post));
            jobs.start();
            Job refused = Quay.over(jobs, jobs.submit(order).jobOrThrow().name());
            assertThat(refused.state()).isEqualTo(JobState.FAILED);
            assertThat(refused.reason()).isEqualTo("An event was not taken: it was answered by status 403");
            assertThat(vacancy.outbox().waiting(10)).hasSize(2);

            Job passed = Quay.over(jobs, jobs.submit(order).jobOrThrow().name());
            assertThat(passed.state()).isEqualTo(JobState.DONE);
            assertThat(vacancy.outbox().waiting(10)).isEmpty();
            // The one that was refused came again.
            assertThat(receiver.events.stream()
                            .map(event -> event.path("id").textValue())
                            .toList())
                    .hasSize(4)
                    .doesNotContainNull();
            assertThat(receiver.events.get(1)).isEqualTo(receiver.events.get(2));
        }
    }

    @Test
    void metersTellHowJobsStandAndWhatHasEnded() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 9)) {
            SimpleMeterRegistry registry = new SimpleMeterRegistry();
            AtomicReference<@Nullable Jobs> here = new AtomicReference<>();
            JobMeters meters = new JobMeters(
                    () -> Objects.requireNonNull(here.get(), "opened by now").list());
            meters.bindTo(registry);
            Jobs jobs = quay.node(builder -> builder.notifier(meters));
            here.set(jobs);
            Job done = Quay.over(
                    jobs, jobs.submit(boats(3).named("season")).jobOrThrow().name());
            Job waiting = jobs.submit(boats(9).at(Instant.parse("2999-01-01T00:00:00Z")))
                    .jobOrThrow();
            Quay.until(() -> registry.find("vacancy.jobs.runs").counter() != null);

            assertThat(done.progress().rows()).isEqualTo(30);
            assertThat(waiting.state()).isEqualTo(JobState.SCHEDULED);
            assertThat(registry.get("vacancy.jobs.runs")
                            .tag("state", "done")
                            .counter()
                            .count())
                    .isEqualTo(1);
            assertThat(registry.get("vacancy.jobs.worked").timer().count()).isEqualTo(1);
            assertThat(registry.get("vacancy.jobs")
                            .tag("state", "scheduled")
                            .gauge()
                            .value())
                    .isEqualTo(1);
            assertThat(registry.get("vacancy.jobs").tag("state", "done").gauge().value())
                    .isEqualTo(1);
            assertThat(registry.get("vacancy.jobs.rows").gauge().value()).isZero();
        }
    }

    @Test
    void healthTellsWhatIsLateAndWhatHasFailed() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 9)) {
            Jobs jobs = quay.jobs();
            assertThat(jobs.health().sound()).isTrue();
            String name = jobs.submit(boats(3)).jobOrThrow().name();
            assertThat(jobs.health().sound()).isTrue();

            quay.clock.advance(Duration.ofMinutes(1));
            assertThat(jobs.health().findings())
                    .singleElement()
                    .asString()
                    .startsWith("Job " + name + " was due at ")
                    .endsWith(", and no node has taken it up.");
            assertThat(jobs.health().jobs()).isEqualTo(Map.of(JobState.SCHEDULED, 1L));

            quay.database.run("ALTER TABLE reading ADD COLUMN note VARCHAR(10)");
            Quay again = Quay.over(quay.database);
            Jobs node = again.node(UnaryOperator.identity());
            Quay.over(node, name);
            assertThat(node.health().findings())
                    .containsExactly("Job " + name
                            + " failed: The tables are others than those that it was ordered on. Order it anew.");
            quay.database.run("DROP TABLE vacancy_job");
            assertThat(node.health().sound()).isFalse();
            assertThat(node.health().findings().get(0)).startsWith("How jobs stand is not known: ");
            again.putDown();
        }
    }

    @Test
    void everyChangeOfAJobIsInAStream() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 40)) {
            Jobs jobs = quay.jobs();
            String name = jobs.submit(
                            boats(40).batches(BatchSize.USUAL.selecting(4)).pace(Throttling.rowsPerSecond(400)))
                    .jobOrThrow()
                    .name();
            jobs.start();

            List<Job> heard = jobs.changes(name).toList();

            assertThat(heard.get(0).progress().handled()).isLessThan(40);
            assertThat(heard.get(heard.size() - 1).state()).isEqualTo(JobState.DONE);
            assertThat(heard).extracting(job -> job.progress().handled()).isSorted();
            assertThat(heard).doesNotHaveDuplicates().hasSizeGreaterThan(3);
            assertThatThrownBy(() -> jobs.changes("nothing"))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("There is no job nothing");
        }
    }

    private static JobOrder boats(int most) {
        return JobOrder.of(
                Request.erase("boat").where(column("id").atMost(most)).withoutConfirmation("a test"));
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
