// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.notice;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobJson;
import io.vacancy.jobs.watch.Notifier;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Tells an address by HTTP POST, as an event in the structured mode of CloudEvents 1.0. It is sent again, with longer and
 * longer pauses, until it is answered by a status of 2xx or was tried five times; so it can arrive twice, with the same
 * identifier.
 */
public final class WebhookNotifier implements Notifier {

    private static final int TRIES = 5;
    private static final int FIRST_SERVER_ERROR = 500;
    private static final int TOO_MANY_REQUESTS = 429;

    private final URI address;
    private final String source;
    private final Duration pause;
    private final HttpClient client =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(10)).build();

    /**
     * @param address where to
     * @param source what the events name as their source, a URI reference such as {@code /harbour/office}
     */
    public WebhookNotifier(URI address, String source) {
        this(address, source, Duration.ofSeconds(1));
    }

    /** @param pause how long to wait before it is sent again; twice as long each time */
    public WebhookNotifier(URI address, String source, Duration pause) {
        this.address = Objects.requireNonNull(address, "address");
        this.source = Objects.requireNonNull(source, "source");
        this.pause = Objects.requireNonNull(pause, "pause");
    }

    @Override
    public void ended(Job job) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(address)
                .timeout(Duration.ofSeconds(30))
                .header("Content-Type", "application/cloudevents+json; charset=UTF-8")
                .POST(HttpRequest.BodyPublishers.ofString(event(job)))
                .build();
        for (int attempt = 1; ; attempt++) {
            String failure = send(request);
            if (failure == null) {
                return;
            }
            if (attempt == TRIES) {
                throw new IOException(failure);
            }
            Thread.sleep(pause.multipliedBy(1L << (attempt - 1)).toMillis());
        }
    }

    /**
     * What went wrong in a way that may pass; null where nothing did.
     *
     * @throws IOException if sending it again would not help
     */
    private @Nullable String send(HttpRequest request) throws IOException, InterruptedException {
        int status;
        try {
            status =
                    client.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
        } catch (IOException unreachable) {
            return String.valueOf(unreachable.getMessage());
        }
        if (status / 100 == 2) {
            return null;
        }
        String answered = "it was answered by status " + status;
        if (status < FIRST_SERVER_ERROR && status != TOO_MANY_REQUESTS) {
            throw new IOException(answered);
        }
        return answered;
    }

    private String event(Job job) throws JsonProcessingException {
        ObjectMapper mapper = new ObjectMapper();
        ObjectNode event = mapper.createObjectNode();
        Instant ended = job.endedAt();
        event.put("specversion", "1.0");
        event.put("id", job.name() + "/" + job.run());
        event.put("source", source);
        event.put("type", "io.vacancy.job." + job.state().word());
        event.put("subject", job.name());
        event.put("time", ended == null ? null : ended.toString());
        event.put("datacontenttype", "application/json");
        event.set("data", mapper.readTree(JobJson.line(job)));
        return event.toString();
    }

    @Override
    public String toString() {
        return "webhook " + address.getHost();
    }
}
